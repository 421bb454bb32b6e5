import '@fontsource-variable/figtree';
import '@fontsource-variable/newsreader/wght-italic.css';
import '@fontsource-variable/red-hat-mono';
import '@mantine/core/styles.css';
import '@mantine/notifications/styles.css';
import './theme/tokens.css';
import './pages/pages.css';
import { MantineProvider } from '@mantine/core';
import { Notifications } from '@mantine/notifications';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { lazy, StrictMode, Suspense } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { Fault } from './pages/Fault';
import { Reels } from './pages/Reels';
import { SignIn } from './pages/SignIn';
import { theme } from './theme/theme';

const WorkbenchPage = lazy(() => import('./workbench/WorkbenchPage'));
const queries = new QueryClient({
  defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false } },
});
const router = createBrowserRouter([
  { path: '/', element: <Reels />, errorElement: <Fault /> },
  { path: '/sign-in', element: <SignIn />, errorElement: <Fault /> },
  {
    path: '/reels/:id',
    element: (
      <Suspense fallback={<p className="page-note">Opening the reel…</p>}>
        <WorkbenchPage />
      </Suspense>
    ),
    errorElement: <Fault />,
  },
  { path: '*', element: <Fault missing /> },
]);

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <MantineProvider theme={theme} defaultColorScheme="auto">
      <QueryClientProvider client={queries}>
        <Notifications position="top-right" />
        <RouterProvider router={router} />
      </QueryClientProvider>
    </MantineProvider>
  </StrictMode>,
);
