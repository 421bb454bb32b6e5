import { TextInput } from '@mantine/core';
import { useId, useRef, useState } from 'react';
import type { KeyboardEvent, ReactNode, Ref } from 'react';

export interface FoundLine {
  key: string;
  label: string;
  help: string;
  /** Why it cannot be taken. */
  why?: string;
  /** What is pressed for it. */
  keys?: string;
  /** It answers fewer letters than have been typed. */
  stale?: boolean;
}

interface Props<T extends FoundLine> {
  label: string;
  placeholder: string;
  text: string;
  type: (text: string) => void;
  lines: readonly T[];
  take: (line: T) => void;
  /** The arrow keys have come to a line. */
  move?: ((line: T) => void) | undefined;
  /** Enter does what is first of this, where all lines are still those of fewer letters. */
  sure?: (() => Promise<readonly T[]>) | undefined;
  /** What is said where nothing is found. */
  nothing: string;
  icon?: ReactNode;
  input?: Ref<HTMLInputElement>;
}

/** A field and what is found by what is typed in it; the arrow keys choose, Enter takes. */
export function Finder<T extends FoundLine>(props: Props<T>) {
  const { label, text, lines, sure, nothing } = props;
  const [active, setActive] = useState(0);
  const list = useId();
  const chosen = lines[Math.min(active, lines.length - 1)];
  const take = (line: T | undefined) => line && !line.why && props.take(line);
  /** For what Enter waits; pressed again it does nothing twice. */
  const awaited = useRef<string | undefined>(undefined);
  const takeFirst = async (answer: () => Promise<readonly T[]>) => {
    if (awaited.current === text) return;
    awaited.current = text;
    const first = await answer().then(
      ([best]) => best,
      () => chosen,
    );
    if (awaited.current !== text) return;
    awaited.current = undefined;
    take(first);
  };
  const press = (e: KeyboardEvent) => {
    const by = e.key === 'ArrowDown' ? 1 : e.key === 'ArrowUp' ? -1 : 0;
    if (by && lines.length) {
      const next = (Math.min(active, lines.length - 1) + by + lines.length) % lines.length;
      setActive(next);
      const line = lines[next];
      if (line && !line.why) props.move?.(line);
    }
    if (by && lines.length === 0) return;
    if (by) {
      e.preventDefault();
      return;
    }
    const best = active === 0 ? lines.find((line) => !line.stale) : chosen;
    if (e.key === 'Enter' && !best && sure) void takeFirst(sure);
    else if (e.key === 'Enter') take(best);
    else return;
    e.preventDefault();
  };
  return (
    <>
      <TextInput
        ref={props.input}
        data-autofocus
        // Whoever asks for it goes on typing at once.
        autoFocus
        size="sm"
        role="combobox"
        aria-expanded="true"
        aria-controls={list}
        aria-activedescendant={chosen && `${list}-${chosen.key}`}
        aria-label={label}
        placeholder={props.placeholder}
        leftSection={props.icon}
        value={text}
        onChange={(e) => {
          props.type(e.currentTarget.value);
          setActive(0);
        }}
        onKeyDown={press}
      />
      <div className="found-list" id={list} role="listbox" aria-label="What was found">
        {lines.map((line) => (
          <div
            key={line.key}
            id={`${list}-${line.key}`}
            ref={(item) => {
              if (line === chosen) item?.scrollIntoView({ block: 'nearest' });
            }}
            role="option"
            aria-selected={line === chosen}
            aria-disabled={line.why !== undefined}
            tabIndex={-1}
            onPointerDown={(e) => e.preventDefault()}
            onClick={() => take(line)}
            onKeyDown={press}
          >
            <span>
              <strong>{line.label}</strong>
              {(line.why ?? line.help) && (
                <span className={line.why ? 'small found-why' : 'small found-help'}>
                  {line.why ?? line.help}
                </span>
              )}
            </span>
            {line.keys && <kbd>{line.keys}</kbd>}
          </div>
        ))}
      </div>
      {lines.length === 0 && (
        <p className="quiet small" role="status">
          {nothing}
        </p>
      )}
    </>
  );
}
