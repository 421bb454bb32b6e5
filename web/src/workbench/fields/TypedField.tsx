import { Tooltip } from '@mantine/core';
import { useId, useState } from 'react';
import { flushSync } from 'react-dom';
import { useExpecting } from '../../hand/expecting';
import { useSession } from '../../reel/session';
import type { Reading } from '../../typed/values';
import { sentence } from '../../ui/sentence';

interface Props<T> {
  label: string;
  /** What stands in it while nobody types. */
  shown: string;
  read: (text: string) => Reading<T>;
  keep: (value: T) => void;
  /** What the arrow keys do: a step up or down, five with Shift. */
  nudge?: ((steps: number) => void) | undefined;
  className?: string;
  placeholder?: string;
  title?: string | undefined;
  /** It follows another value until it is set. */
  unset?: boolean | undefined;
  moves?: boolean | undefined;
  /** It is heard: while it is typed, what is needed for that is made ready. */
  heard?: boolean;
}

/**
 * A value that is typed. Enter keeps it and leaves the field, Escape leaves it as it was; what is
 * not understood stays, with the reason, until it is put right or given up.
 */
export function TypedField<T>(props: Props<T>) {
  const { label, shown, read, keep, nudge, unset, moves, heard } = props;
  const [text, setText] = useState<string | undefined>();
  const [why, setWhy] = useState('');
  const reason = useId();
  const tell = useSession((s) => s.tell);
  const { typing, typed } = useExpecting();
  const restore = () => {
    setText(undefined);
    setWhy('');
  };
  /** Whether the field may be left. */
  const finish = (): boolean => {
    // Only what has been changed is read: what is shown is rounded.
    if (text === undefined || text.trim() === shown) {
      restore();
      return true;
    }
    const { value, why: wrong } = read(text);
    if (wrong !== undefined) {
      setWhy(sentence(wrong));
      return false;
    }
    restore();
    keep(value as T);
    typed();
    return true;
  };
  return (
    <Tooltip label={why} opened={why !== ''} color="var(--bad)" position="bottom" multiline w={240}>
      <input
        className={props.className}
        aria-label={label}
        aria-invalid={why !== ''}
        aria-describedby={why ? reason : undefined}
        placeholder={props.placeholder}
        title={why ? undefined : props.title}
        data-unset={unset || undefined}
        data-moves={moves || undefined}
        value={text ?? shown}
        onFocus={(e) => e.currentTarget.select()}
        onChange={(e) => {
          setText(e.currentTarget.value);
          setWhy('');
          if (heard) typing();
        }}
        onBlur={() => {
          if (text === undefined) {
            typed();
            return;
          }
          const { why: wrong } = text.trim() === shown ? { why: undefined } : read(text);
          if (wrong !== undefined) tell(sentence(wrong));
          else finish();
          restore();
          typed();
        }}
        onDoubleClick={(e) => e.stopPropagation()}
        onKeyDown={(e) => {
          if (e.key === 'Enter') {
            e.preventDefault();
            // What is kept is kept before the field is left: leaving it keeps what is in it.
            const done = flushSync(finish);
            if (done) e.currentTarget.blur();
            else e.currentTarget.select();
          }
          if (e.key === 'Escape') {
            e.stopPropagation();
            flushSync(restore);
            e.currentTarget.blur();
          }
          if (nudge && (e.key === 'ArrowUp' || e.key === 'ArrowDown')) {
            e.preventDefault();
            restore();
            nudge((e.key === 'ArrowUp' ? 1 : -1) * (e.shiftKey ? 5 : 1));
          }
        }}
      />
    </Tooltip>
  );
}
