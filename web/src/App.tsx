/** The application, for who is signed in. */
import '@mantine/core/styles.css';
import '@mantine/notifications/styles.css';
import './theme/mantine.css';
import { MantineProvider } from '@mantine/core';
import { Notifications } from '@mantine/notifications';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { lazy, StrictMode, Suspense } from 'react';
import type { Root } from 'react-dom/client';
import { createBrowserRouter, RouterProvider, useNavigate, useSearchParams } from 'react-router';
import { Fault } from './pages/Fault';
import { Reels } from './pages/Reels';
import { linkOf, SignIn } from './pages/SignIn';
import { theme } from './theme/theme';

const WorkbenchPage = lazy(() => import('./workbench/WorkbenchPage'));
const queries = new QueryClient({
  defaultOptions: {
    // The server may be this very machine: it is asked with the network away, too.
    queries: { retry: 1, refetchOnWindowFocus: false, networkMode: 'always' },
    mutations: { networkMode: 'always' },
  },
});
const router = createBrowserRouter([
  { path: '/', element: <Reels />, errorElement: <Fault /> },
  { path: '/sign-in', element: <SignInAgain />, errorElement: <Fault /> },
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

/** Who has been signed out signs in again in the same window, where unsent edits wait. */
function SignInAgain() {
  const [params] = useSearchParams();
  const go = useNavigate();
  return <SignIn params={params} link={linkOf(window.location)} go={(to) => void go(to)} />;
}

export function show(root: Root) {
  root.render(
    <StrictMode>
      <MantineProvider theme={theme} defaultColorScheme="auto">
        <QueryClientProvider client={queries}>
          <Notifications position="top-right" />
          <RouterProvider router={router} />
        </QueryClientProvider>
      </MantineProvider>
    </StrictMode>,
  );
}
