import { useEffect } from 'react';
import { watchApproach } from '../hand/approaching';
import { useSession } from '../reel/session';
import { Later } from '../ui/Later';
import { useTools } from './tools/context';
import { Head } from './Head';
import { Offers } from './Offers';
import { CommandSearch } from './commands/CommandSearch';
import { HelpDialog } from './commands/HelpDialog';
import { CopyDialog } from './selected/copying/CopyDialog';
import { Guide } from './guide/Guide';
import { useKeyMap } from './keys/keyMap';
import { useCommands } from './commands/useCommands';
import { useKeys } from './commands/useKeys';
import { useAskingFound } from './tools/found';
import { useFollowedKeys } from './keyframes/followKeys';
import { useOpened } from './analysis/opened';
import { loadOnly } from './listening/onlyTracks';
import { useOpenLanes } from './keyframes/openLanes';
import { LeftColumn } from './left/LeftColumn';
import { Transport } from './transport/Transport';
import { Splitter } from '../ui/Splitter';
import { Timeline } from './timeline/Timeline';
import { useView } from './axis/view';
import { useReel } from '../reel/useReel';

/** The whole screen of an open reel. */
export function Workbench() {
  const { reel } = useTools();
  const name = useReel((d) => d.name);
  // What a draft cuts away stays in view until it is let go of.
  const length = useSession((s) =>
    Math.max(s.derived?.length ?? 0, (s.draft && s.committed.derived?.length) ?? 0),
  );
  useEffect(() => {
    // Without them the usual keys hold.
    useKeyMap
      .getState()
      .load()
      .catch(() => undefined);
  }, []);
  useEffect(watchApproach, []);
  useEffect(() => {
    window.document.title = `${name || 'Untitled'} · Bathyphon`;
  }, [name]);
  useEffect(() => {
    useView.getState().set({ length: Math.max(1, length) });
  }, [length]);
  useEffect(() => {
    // The revision on the screen, for whoever waits for another window's edit to show.
    const told = ({ revision }: { revision: number }) => {
      window.document.body.dataset.revision = String(revision);
    };
    told(useSession.getState());
    const stop = useSession.subscribe(told);
    return () => {
      stop();
      delete window.document.body.dataset.revision;
    };
  }, []);
  useEffect(() => {
    useOpenLanes.getState().load(reel);
    useOpened.getState().load(reel);
    loadOnly(reel);
    // A reel opens whole.
    const { length: all } = useView.getState();
    useView.getState().fit(0, all);
  }, [reel]);
  return (
    <div className="workbench">
      <Head />
      <ByKey />
      <Offers />
      <Later frames={1} until={<aside className="left" />}>
        <LeftColumn />
      </Later>
      <Splitter
        label="Width of the left column"
        kept="bathyphon.left"
        property="--left"
        along="x"
        low={300}
        high={640}
      />
      <Later frames={2} until={<div className="transport-bar" />}>
        <Transport />
      </Later>
      <Later frames={2} until={<main className="timeline" />}>
        <Timeline />
      </Later>
    </div>
  );
}

/** What follows the reel without being drawn; it changes often, and the screen does not with it. */
function ByKey() {
  useFollowedKeys();
  useAskingFound();
  const commands = useCommands();
  useKeys(commands);
  return (
    <>
      <CommandSearch commands={commands} />
      <HelpDialog />
      <CopyDialog />
      <Guide />
    </>
  );
}
