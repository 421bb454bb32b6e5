import { useEffect } from 'react';
import { useSession } from '../reel/session';
import { Later } from '../ui/Later';
import { useWorkbench } from './context';
import { Head } from './Head';
import { useKeys } from './keys';
import { LeftColumn } from './left/LeftColumn';
import { Timeline } from './timeline/Timeline';
import { useView } from './timeline/view';

/** The whole screen of an open reel. */
export function Workbench() {
  const { document, reel } = useWorkbench();
  const length = useSession((s) => s.derived?.length ?? 0);
  useKeys();
  useEffect(() => {
    window.document.title = `${document.name || 'Untitled'} · Bathyphon`;
  }, [document.name]);
  useEffect(() => {
    useView.getState().set({ length: Math.max(1, length) });
  }, [length]);
  useEffect(() => {
    // A reel opens whole.
    const { length: all } = useView.getState();
    useView.getState().fit(0, all);
  }, [reel]);
  return (
    <div className="workbench">
      <Head />
      <Later frames={1} until={<aside className="left" />}>
        <LeftColumn />
      </Later>
      <Later frames={2} until={<main className="timeline" />}>
        <Timeline />
      </Later>
    </div>
  );
}
