import { ActionIcon, Button } from '@mantine/core';
import { IconCheck, IconX } from '@tabler/icons-react';
import { useEffect, useRef, useState } from 'react';
import { usePlayer } from '../../player/player';
import { useSession } from '../../reel/session';
import type { Clock } from '../../time/clock';
import { useTrying } from '../listening/trying';
import { useAsked } from '../tools/asked';
import { useTools } from '../tools/context';
import { leaveGuide, stepDone, useGuide } from './progress';
import { STEPS, type Seen, type Step } from './steps';
import './guide.css';

const LOOK_MS = 250;
/** How long a step stays with its tick. */
const SEEN_MS = 1100;

/** First steps: says what to try next, sees that it was done, and keeps out of the way. */
export function Guide() {
  const open = useGuide((s) => s.open);
  const done = useGuide((s) => s.done);
  const ready = useSession((s) => s.document !== undefined);
  if (!open || !ready) return null;
  const at = STEPS.findIndex((step) => !done.includes(step.id));
  const step = STEPS[at];
  return (
    <aside className="guide" aria-label="First steps">
      <div className="guide-head">
        <span className="small quiet">
          {step ? `First steps · ${at + 1} of ${STEPS.length}` : 'First steps'}
        </span>
        <ActionIcon
          size={24}
          variant="subtle"
          color="gray"
          aria-label="Leave the first steps"
          onClick={leaveGuide}
        >
          <IconX size={15} />
        </ActionIcon>
      </div>
      <div aria-live="polite">{step ? <Doing key={step.id} step={step} /> : <Ended />}</div>
    </aside>
  );
}

function Doing({ step }: { step: Step }) {
  const { clock } = useTools();
  const done = useWatched(step, clock);
  return (
    <>
      <p className="guide-title">
        {done && <IconCheck size={18} aria-label="Done:" />} {step.title}
      </p>
      <p className="small">{step.how}</p>
      {!done && (
        <Button size="compact-xs" variant="subtle" onClick={() => stepDone(step.id)}>
          Skip this
        </Button>
      )}
    </>
  );
}

function Ended() {
  return (
    <>
      <p className="guide-title">That is how all of it works.</p>
      <p className="small">Everything can be undone. Export… writes what you hear as a WAV file.</p>
      <Button
        size="compact-xs"
        variant="default"
        onClick={() => {
          leaveGuide();
          useAsked.getState().ask('export');
        }}
      >
        Export…
      </Button>
    </>
  );
}

/** Whether a step has been done since it was shown. */
function useWatched(step: Step, clock: Clock): boolean {
  const [done, setDone] = useState(false);
  const heard = useRef(0);
  useEffect(() => {
    const then = seen(clock, 0);
    if (!then) return;
    const timer = setInterval(() => {
      if (usePlayer.getState().playing) heard.current += LOOK_MS / 1000;
      const now = seen(clock, heard.current);
      if (!now || !step.done(now, then)) return;
      clearInterval(timer);
      setDone(true);
      leaving = setTimeout(() => stepDone(step.id), SEEN_MS);
    }, LOOK_MS);
    let leaving: ReturnType<typeof setTimeout> | undefined;
    return () => {
      clearInterval(timer);
      // Whoever leaves while its tick is shown has done it.
      if (leaving) {
        clearTimeout(leaving);
        stepDone(step.id);
      }
    };
  }, [step, clock]);
  return done;
}

function seen(clock: Clock, heard: number): Seen | undefined {
  // What a hand has not let go of has not been done yet.
  const { document } = useSession.getState().committed;
  if (!document) return undefined;
  const { position, side } = usePlayer.getState();
  const frame = clock.frameOfSample(position);
  const cuts = document.picture?.cuts ?? [];
  // An effect that is only tried is heard on the other side, too.
  const untreated = side === 'other' && !useTrying.getState().before;
  return { document, heard, atCut: cuts.includes(frame), position, untreated };
}
