import { Button, Popover } from '@mantine/core';
import { memo, useEffect, useRef, useState } from 'react';
import { Finder } from '../fields/Finder';
import { stopTrying, tryOut } from '../listening/trying';
import type { Command } from '../../reel/session';
import { useAsked } from '../tools/asked';
import { useTools } from '../tools/context';
import { lineOf, useFinding, wantedOf, type Wanted } from './finding';

interface Props {
  add: (wanted: Wanted) => void;
  /** The edits that would add it, and over what: to be heard before. */
  edits: (wanted: Wanted) => readonly Command[];
  span: () => { start: number; end: number };
}

/** All effects with what they are for, narrowed down by typing; `/` opens it. */
export const AddEffect = memo(function AddEffect({ add, edits, span }: Props) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState('');
  const button = useRef<HTMLButtonElement>(null);
  const show = (typed: string) => {
    // The list hangs from the button: where that is out of sight, so would the list be.
    button.current?.scrollIntoView({ block: 'nearest' });
    setText(typed);
    setOpen(true);
  };
  const { player } = useTools();
  // Another sheet may take this one's place while something is being tried.
  useEffect(() => () => stopTrying(player), [player]);
  const close = () => {
    stopTrying(player);
    setOpen(false);
    setText('');
  };
  const asked = useAsked((s) => s.asked);
  useEffect(() => {
    if (asked?.what !== 'add-effect') return;
    useAsked.getState().ask(undefined);
    show(asked.text ?? '');
  }, [asked]);
  const { hits, unknown, answered, stale, sure } = useFinding(text, open);
  return (
    <Popover
      position="bottom-start"
      width={300}
      opened={open}
      onChange={(wanted) => (wanted ? setOpen(true) : close())}
      trapFocus
      returnFocus={false}
      shadow="md"
      transitionProps={{ duration: 0 }}
    >
      <Popover.Target>
        <Button
          ref={button}
          className="add-effect"
          variant="default"
          fullWidth
          onClick={() => (open ? close() : show(''))}
        >
          Add an effect…
        </Button>
      </Popover.Target>
      <Popover.Dropdown p={8} aria-label="Add an effect">
        <Finder
          label="Search effects"
          placeholder="hall, voice … with values: echo 350 ms 40 %"
          text={text}
          type={setText}
          lines={hits.map((hit) => ({ ...lineOf(hit), hit, stale }))}
          sure={() => sure().then(({ hits }) => hits.map((hit) => ({ ...lineOf(hit), hit })))}
          take={({ hit }) => {
            close();
            add(wantedOf(hit));
          }}
          move={({ hit }) => {
            const wanted = wantedOf(hit);
            tryOut(player, wanted.name, edits(wanted), span());
          }}
          nothing={
            !answered
              ? ''
              : unknown.length
                ? `No effect matches “${unknown.join(' ')}”.`
                : 'No effect matches all of that.'
          }
        />
      </Popover.Dropdown>
    </Popover>
  );
});
