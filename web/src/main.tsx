import '@fontsource-variable/figtree';
import '@fontsource-variable/newsreader/wght-italic.css';
import '@fontsource-variable/red-hat-mono';
import './theme/tokens.css';
import './pages/pages.css';
import { createRoot } from 'react-dom/client';
import { setScheme } from './theme/scheme';

setScheme();

// Signing in needs next to nothing of the application, and is there at once.
const page =
  window.location.pathname === '/sign-in' ? import('./pages/signInAlone') : import('./App');
const root = createRoot(document.getElementById('root')!);
void page.then(({ show }) => show(root));
