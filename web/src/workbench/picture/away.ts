/** A window of its own for the picture: it looks like this one, and keys mean the same in it. */
import { notifications } from '@mantine/notifications';
import { useCallback, useEffect, useState } from 'react';

const NAME = 'bathyphon-picture';
const SIZE = 'popup,width=960,height=560';

export function useAway() {
  const [away, setAway] = useState<Window | undefined>();
  const open = useCallback(() => {
    const made = window.open('', NAME, SIZE);
    if (!made) {
      const message = 'The browser has blocked the window; allow windows for this page.';
      notifications.show({ message });
      return;
    }
    dress(made);
    setAway(made);
  }, []);
  const bringBack = useCallback(() => setAway(undefined), []);
  useEffect(() => {
    if (!away) return;
    const gone = () => setAway(undefined);
    const close = () => away.close();
    // Space plays and arrows step, whichever of the two windows has the focus.
    const press = (e: KeyboardEvent) => {
      const again = new KeyboardEvent('keydown', { ...init(e), bubbles: true, cancelable: true });
      if (!window.document.body.dispatchEvent(again)) e.preventDefault();
    };
    away.addEventListener('pagehide', gone);
    away.addEventListener('keydown', press);
    window.addEventListener('pagehide', close);
    return () => {
      away.removeEventListener('pagehide', gone);
      away.removeEventListener('keydown', press);
      window.removeEventListener('pagehide', close);
      away.close();
    };
  }, [away]);
  return { away, open, bringBack };
}

/** Give a bare window the styles and the look of day or night of this one. */
function dress({ document }: Window) {
  const own = window.document;
  document.title = `Picture · ${own.title}`;
  document.documentElement.lang = own.documentElement.lang;
  for (const { name, value } of own.documentElement.attributes)
    document.documentElement.setAttribute(name, value);
  for (const node of own.querySelectorAll('link[rel=stylesheet], style')) {
    const copy = document.importNode(node, true);
    // A bare window has no address of its own to which these could belong.
    if (node instanceof HTMLLinkElement) copy.setAttribute('href', node.href);
    document.head.append(copy);
  }
  document.body.className = 'picture-window';
}

function init({ key, code, ctrlKey, shiftKey, altKey, metaKey }: KeyboardEvent) {
  return { key, code, ctrlKey, shiftKey, altKey, metaKey };
}
