import { useComputedColorScheme } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { memo, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { Link, Navigate, useParams } from 'react-router';
import { client, Refusal, unwrap, type MediaLine } from '../api/client';
import { onEvent } from '../api/events';
import { connectHand, startSupply } from '../hand/connect';
import { cancelOnEscape } from '../hand/gesture';
import { Player } from '../player/player';
import { unsentEdits, useSession } from '../reel/session';
import { makeClock } from '../time/clock';
import { restoreSize } from '../ui/Splitter';
import { ToolsContext, type Tools } from './tools/context';
import { keepMatched } from './listening/matching';
import { takeByKeys } from './listening/trying';
import { useSelection } from './selected/selection';
import { Workbench } from './Workbench';
import './workbench.css';
import './left/left.css';
import './timeline/timeline.css';
import './lanes/lanes.css';
import './analysis/analysis.css';
import './sounds/sounds.css';

restoreSize('bathyphon.picture', '--picture');
restoreSize('bathyphon.left', '--left');

/** Opens a reel and keeps it in step with the server. */
export default function WorkbenchPage() {
  const { id = '' } = useParams();
  const queries = useQueryClient();
  const derived = useSession((s) => s.committed.derived);
  const revision = useSession((s) => s.revision);
  const trouble = useSession((s) => s.trouble);
  const dismiss = useSession((s) => s.dismiss);
  const [fault, setFault] = useState<Refusal | undefined>();
  const effects = useQuery({
    queryKey: ['effects'],
    queryFn: () => unwrap(client.GET('/api/effects')),
    staleTime: Infinity,
  });
  const media = useQuery({ queryKey: ['media'], queryFn: () => unwrap(client.GET('/api/media')) });

  useEffect(() => {
    const session = useSession.getState();
    useSelection.getState().select({ kind: 'none' });
    session.open(id).catch((error: unknown) => {
      setFault(error instanceof Refusal ? error : new Refusal('The server does not answer.', 0));
    });
    const stop = onEvent((event) => {
      if (event.kind === 'reel' && event.reel === id)
        void useSession.getState().catchUp(event.revision);
      if (event.kind === 'media') {
        void queries.invalidateQueries({ queryKey: ['media'] });
        // What has been converted to this reel's rate changes its sound, not its document.
        const { derived, catchUp } = useSession.getState();
        if (derived?.converting.includes(event.media)) void catchUp();
      }
      if (event.kind === 'export') void queries.invalidateQueries({ queryKey: ['exports'] });
      if (event.kind === 'hello') {
        void useSession.getState().catchUp();
        void queries.invalidateQueries({ queryKey: ['media'] });
        void queries.invalidateQueries({ queryKey: ['exports'] });
      }
    });
    return () => {
      stop();
      session.close();
    };
  }, [id, queries]);

  const open = useSession((s) => s.document !== undefined);
  const rate = useSession((s) => s.document?.sample_rate);
  const player = useMemo(
    () => (rate ? new Player(id, rate, startSupply()) : undefined),
    [id, rate],
  );
  useEffect(() => () => player?.close(), [player]);
  const ready = media.data?.reduce(
    (n, m) => n + (m.info.sound ? 1 : 0) + (m.state === 'ready' ? 1 : 0),
    0,
  );
  const readyMedia = (ready ?? 0) - (derived?.converting.length ?? 0);
  const readyBefore = useRef<number>(undefined);
  useEffect(() => {
    // Media that have become ready change the sound as an edit does.
    const { draft } = useSession.getState();
    const drafted = draft && !draft.sentAs ? draft.commands : undefined;
    if (player && derived) player.setRevision(revision + readyMedia / 1e6, derived.length, drafted);
  }, [player, revision, derived, readyMedia]);
  useEffect(() => {
    // What were ready when the reel was opened it was opened with.
    if (ready && readyBefore.current !== undefined && ready !== readyBefore.current)
      void useSession.getState().catchUp();
    readyBefore.current = ready;
  }, [ready]);

  useEffect(() => {
    if (!player || !rate) return undefined;
    const leave = [
      connectHand(id, rate, player),
      keepMatched(id, player),
      takeByKeys(player),
      cancelOnEscape(),
    ];
    return () => leave.forEach((l) => l());
  }, [id, rate, player]);

  useEffect(() => {
    const warn = (e: BeforeUnloadEvent) => {
      if (unsentEdits()) e.preventDefault();
    };
    window.addEventListener('beforeunload', warn);
    return () => window.removeEventListener('beforeunload', warn);
  }, []);

  useEffect(() => {
    if (!trouble) return;
    notifications.show({ message: trouble, color: 'red', autoClose: 8000 });
    dismiss();
  }, [trouble, dismiss]);

  const frameRate = useSession((s) => s.document?.frame_rate);
  const drop = useSession((s) => s.document?.drop_frame);
  const startTimecode = useSession((s) => s.document?.start_timecode);
  const clock = useMemo(
    () => (frameRate && rate ? makeClock(frameRate, rate, drop, startTimecode) : undefined),
    [frameRate, rate, drop, startTimecode],
  );
  const byId = useMemo(
    () => new Map<string, MediaLine>(media.data?.map((m) => [m.id, m]) ?? []),
    [media.data],
  );

  if (fault?.status === 401)
    return <Navigate to={`/sign-in?to=${encodeURIComponent(`/reels/${id}`)}`} />;
  if (fault)
    return (
      <main className="page-note" role="alert">
        <p>{fault.status === 404 ? 'There is no such reel among yours.' : fault.message}</p>
        <Link to="/">Go to your reels</Link>
      </main>
    );
  if (!open || !clock || !player || !effects.data)
    return <p className="page-note">Opening the reel…</p>;
  return (
    <Provided tools={{ reel: id, clock, player, effects: effects.data, media: byId }}>
      <Opened />
    </Provided>
  );
}

function Provided(props: { tools: Omit<Tools, 'scheme'>; children: ReactNode }) {
  const { reel, clock, player, effects, media } = props.tools;
  const scheme = useComputedColorScheme();
  const tools = useMemo(
    () => ({ reel, clock, player, effects, media, scheme }),
    [reel, clock, player, effects, media, scheme],
  );
  return <ToolsContext value={tools}>{props.children}</ToolsContext>;
}

/** The same element each time: it is not drawn anew with the page. */
const Opened = memo(Workbench);
