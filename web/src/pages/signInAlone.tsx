/** The page that signs in, before anything else has been loaded. */
import { StrictMode } from 'react';
import type { Root } from 'react-dom/client';
import { linkOf, SignIn } from './SignIn';

export function show(root: Root) {
  root.render(
    <StrictMode>
      <SignIn
        params={new URLSearchParams(window.location.search)}
        link={linkOf(window.location)}
        go={(to) => window.location.assign(to)}
      />
    </StrictMode>,
  );
}
