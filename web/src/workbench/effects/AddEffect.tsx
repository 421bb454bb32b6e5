import { Button, Menu, TextInput } from '@mantine/core';
import { memo, useEffect, useRef, useState } from 'react';
import { useAsked } from '../tools/asked';
import { useFinding, wantedOf, type Hit, type Wanted } from './finding';

/** The list needs a moment to be laid out before it can take the focus. */
const FOCUS_MS = 30;

interface Props {
  add: (wanted: Wanted) => void;
}

/** All effects with what they are for, narrowed down by typing; `/` opens it. */
export const AddEffect = memo(function AddEffect({ add }: Props) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState('');
  const button = useRef<HTMLButtonElement>(null);
  const input = useRef<HTMLInputElement>(null);
  const list = useRef<HTMLDivElement>(null);
  const show = () => {
    // The list hangs from the button: where that is out of sight, so would the list be.
    button.current?.scrollIntoView({ block: 'nearest' });
    setOpen(true);
  };
  const asked = useAsked((s) => s.asked);
  useEffect(() => {
    if (asked?.what !== 'add-effect') return;
    useAsked.getState().ask(undefined);
    button.current?.scrollIntoView({ block: 'nearest' });
    setText(asked.text ?? '');
    setOpen(true);
  }, [asked]);
  useEffect(() => {
    if (!open) return;
    const timer = setTimeout(() => input.current?.focus({ preventScroll: true }), FOCUS_MS);
    return () => clearTimeout(timer);
  }, [open]);
  const { hits, unknown, answered, sure } = useFinding(text, open);
  const choose = (hit: Hit | undefined) => {
    if (!hit || hit.why) return;
    setOpen(false);
    setText('');
    add(wantedOf(hit));
  };
  return (
    <Menu
      position="bottom-start"
      width={300}
      opened={open}
      onChange={(wanted) => (wanted ? show() : setOpen(false))}
      trapFocus={false}
      returnFocus={false}
      onClose={() => setText('')}
    >
      <Menu.Target>
        <Button ref={button} className="add-effect" variant="default" fullWidth>
          Add an effect…
        </Button>
      </Menu.Target>
      <Menu.Dropdown className="effect-menu" ref={list}>
        <TextInput
          ref={input}
          size="xs"
          aria-label="Search effects"
          placeholder="hall, voice … with values: echo 350 ms 40 %"
          value={text}
          onChange={(e) => setText(e.currentTarget.value)}
          onKeyDown={(e) => {
            // What is shown may still be the answer to fewer letters.
            if (e.key === 'Enter') void sure().then((answer) => choose(answer.hits[0]));
            if (e.key === 'ArrowDown') {
              e.preventDefault();
              list.current?.querySelector<HTMLElement>('[data-menu-item]')?.focus();
            }
          }}
        />
        {hits.map((hit) => (
          <Menu.Item
            key={`${hit.effect} ${hit.preset}`}
            aria-disabled={hit.why !== ''}
            closeMenuOnClick={!hit.why}
            onClick={() => choose(hit)}
          >
            <strong>{hit.label}</strong>
            <div className={hit.why ? 'trouble small' : 'quiet small'}>
              {hit.why ? sentence(hit.why) : hit.said || hit.help}
            </div>
          </Menu.Item>
        ))}
        {answered && hits.length === 0 && (
          <p className="quiet small" role="status">
            {unknown.length
              ? `No effect goes by “${unknown.join(' ')}”.`
              : 'No effect goes by all of that.'}
          </p>
        )}
      </Menu.Dropdown>
    </Menu>
  );
});

function sentence(text: string): string {
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;
}
