import { Button, Menu, TextInput } from '@mantine/core';
import { memo, useEffect, useRef, useState } from 'react';
import type { EffectTable } from '../../api/client';
import { useAsked } from '../tools/asked';
import { paramsFor, readWanted, said } from './wanted';

/** The list needs a moment to be laid out before it can take the focus. */
const FOCUS_MS = 30;

interface Props {
  effects: EffectTable[];
  add: (kind: string, params: Record<string, number>, frames: number[]) => void;
}

/** All effects with what they are for, narrowed down by typing; `/` opens it. */
export const AddEffect = memo(function AddEffect({ effects, add }: Props) {
  const [open, setOpen] = useState(false);
  const [search, setSearch] = useState('');
  const button = useRef<HTMLButtonElement>(null);
  const input = useRef<HTMLInputElement>(null);
  const show = () => {
    // The list hangs from the button: where that is out of sight, so would the list be.
    button.current?.scrollIntoView({ block: 'nearest' });
    setOpen(true);
  };
  const asked = useAsked((s) => s.asked === 'add-effect');
  useEffect(() => {
    if (!asked) return;
    useAsked.getState().ask(undefined);
    // The list hangs from the button: where that is out of sight, so would the list be.
    button.current?.scrollIntoView({ block: 'nearest' });
    setOpen(true);
  }, [asked]);
  useEffect(() => {
    if (!open) return;
    const timer = setTimeout(() => input.current?.focus({ preventScroll: true }), FOCUS_MS);
    return () => clearTimeout(timer);
  }, [open]);
  const typed = readWanted(search);
  const wanted = typed.words.toLowerCase();
  // An effect that is called so comes before those that are only described so.
  const named = (e: EffectTable) => (e.label.toLowerCase().startsWith(wanted) ? 0 : 1);
  const shown = effects
    .filter((e) => `${e.label} ${e.help}`.toLowerCase().includes(wanted))
    .sort((a, b) => named(a) - named(b));
  const choose = (table: EffectTable) => {
    setOpen(false);
    setSearch('');
    add(table.id, paramsFor(table, typed), typed.frames);
  };
  return (
    <Menu
      position="bottom-start"
      width={300}
      opened={open}
      onChange={(wanted) => (wanted ? show() : setOpen(false))}
      trapFocus={false}
      returnFocus={false}
      onClose={() => setSearch('')}
    >
      <Menu.Target>
        <Button ref={button} className="add-effect" variant="default" fullWidth>
          Add an effect…
        </Button>
      </Menu.Target>
      <Menu.Dropdown className="effect-menu">
        <TextInput
          ref={input}
          size="xs"
          aria-label="Search effects"
          placeholder="room, voice … with values: reverb 6s"
          value={search}
          onChange={(e) => setSearch(e.currentTarget.value)}
          onKeyDown={(e) => {
            if (e.key === 'Enter' && shown[0]) choose(shown[0]);
          }}
        />
        {shown.map((effect) => (
          <Menu.Item key={effect.id} onClick={() => choose(effect)}>
            <strong>{effect.label}</strong>
            <div className="quiet small">{said(effect, typed) || effect.help}</div>
          </Menu.Item>
        ))}
        {shown.length === 0 && <p className="quiet small">No effect is like that.</p>}
      </Menu.Dropdown>
    </Menu>
  );
});
