import { Button } from '@mantine/core';
import { useEffect, useRef, useState } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { useSession } from '../../reel/session';
import type { Command } from '../../reel/draft';
import { reelNow } from '../../reel/useReel';
import { stopTrying, tryOut } from '../listening/trying';
import { isHeard } from '../sounds/making';
import { Setting } from '../sounds/Setting';
import { useFocusWanted } from '../tools/useFocusWanted';
import { placeNow, type Place } from '../selected/place';
import { clipsOf, useSelection } from '../selected/selection';
import { useTools } from '../tools/context';
import { useKnownTimes } from '../tools/knownTimes';
import { workOut, type Answers, type Made, type Recipe } from './recipes';
import { sentence } from '../../ui/sentence';

interface Props {
  recipe: Recipe;
  answers: Answers;
  /** What was made before, whose answers are changed. */
  made?: Made;
  /** Whether the shelf was opened at it: then Enter uses it. */
  focused?: boolean;
  done: () => void;
}

const WHERE: Record<string, string> = {
  clip: 'Works on the selected clip, else on the one under the playhead.',
  'two clips': 'Select the clip that it is for, then with Shift the clip that it is to be like.',
  stretch: 'Works on the range or treatment that is selected, else on this shot.',
  markers: 'Works on the selected clip, else on the one under the playhead, at its markers.',
};

/** What a recipe asks; it is heard at its place before anything is made. */
export function RecipeCard({ recipe, answers: first, made, focused, done }: Props) {
  const { player, reel } = useTools();
  const { edit, tell } = useSession.getState();
  const [answers, setAnswers] = useState(first);
  const [busy, setBusy] = useState<'try' | 'use' | undefined>();
  const left = useRef<AbortController>(undefined);
  useEffect(
    () => () => {
      left.current?.abort();
      stopTrying(player);
    },
    [player],
  );
  const button = useRef<HTMLButtonElement>(null);
  useFocusWanted(focused, () => button.current);
  const units = useKnownTimes();
  const work = async (way: 'try' | 'use') => {
    setBusy(way);
    left.current?.abort();
    const stop = (left.current = new AbortController());
    try {
      const place = made ? (made.place as Place) : placeNow();
      const found = await workOut(reel, recipe.id, answers, place, way === 'try', made?.id);
      const commands = found.commands as Command[];
      if (way === 'try') {
        for (const medium of found.media) await isHeard(medium, stop.signal);
        // Whoever has gone on to something else meanwhile does not want to hear it any more.
        if (stop.signal.aborted) return;
        const span = { start: found.start, end: found.end };
        tryOut(player, recipe.label, commands, span, true, true);
      } else {
        stopTrying(player);
        if (await edit(commands)) {
          found.said.forEach(tell);
          done();
        }
      }
    } catch (error) {
      if (!stop.signal.aborted) tell(sentence((error as Error).message));
    } finally {
      if (left.current === stop) setBusy(undefined);
    }
  };
  return (
    <div className="recipe-body">
      <p className="small">{recipe.help}</p>
      {recipe.questions.map((q) => {
        const value = answers[q.id];
        const index = q.choices.length ? q.choices.indexOf(String(value)) : Number(value);
        return (
          <Setting
            key={q.id}
            parameter={q}
            value={index}
            units={units}
            set={(v) => setAnswers({ ...answers, [q.id]: q.choices.length ? q.choices[v]! : v })}
          />
        );
      })}
      {!made && <Where needs={recipe.needs} />}
      <span className="sound-tools">
        <Button
          ref={button}
          size="compact-sm"
          loading={busy === 'use'}
          onClick={() => void work('use')}
        >
          {made ? 'Change it' : 'Use it'}
        </Button>
        <Button
          size="compact-sm"
          variant="default"
          loading={busy === 'try'}
          onClick={() => void work('try')}
        >
          Try it
        </Button>
      </span>
    </div>
  );
}

/** On what it works; of two clips which is which. */
function Where({ needs }: { needs: string }) {
  const [clip, other] = useSelection(
    useShallow((s) => (needs === 'two clips' ? clipsOf(s.selection) : [])),
  );
  const clips = (reelNow().tracks ?? []).flatMap((track) => track.clips ?? []);
  const name = (id: string) => clips.find((c) => c.id === id)?.name ?? 'this clip';
  return (
    <p className="quiet small">
      {clip && other ? `“${name(clip)}” is to be like “${name(other)}”.` : WHERE[needs]}
    </p>
  );
}
