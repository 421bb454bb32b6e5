import { IconChevronDown, IconChevronRight } from '@tabler/icons-react';
import { useEffect, useRef, type ReactNode } from 'react';
import { useFocusWanted } from '../tools/useFocusWanted';

interface Props {
  label: string;
  /** What stands beside the name, as far as there is room. */
  help: string;
  open: boolean;
  toggle: () => void;
  before?: ReactNode;
  after?: ReactNode;
  /** What Enter does once it is open. */
  enter?: () => void;
  /** Whether the shelf was opened at it: then Enter does that at once. */
  focused?: boolean;
  children: ReactNode;
}

/** A line of a list that opens to what can be done with it. */
export function OpenLine(props: Props) {
  const { label, help, open, toggle, before, after, enter, focused, children } = props;
  const line = useRef<HTMLLIElement>(null);
  useEffect(() => {
    // What opens below the edge would hide what was asked for.
    if (open) line.current?.scrollIntoView({ block: 'nearest' });
  }, [open]);
  useFocusWanted(focused, () => line.current?.querySelector('button'));
  return (
    <li ref={line} className="sound" data-open={open || undefined}>
      <div className="sound-head">
        {before}
        <button
          type="button"
          className="sound-name"
          aria-expanded={open}
          onClick={toggle}
          onKeyDown={(e) => {
            if (e.key !== 'Enter' || !open || !enter) return;
            e.preventDefault();
            e.stopPropagation();
            enter();
          }}
        >
          {open ? <IconChevronDown size={14} /> : <IconChevronRight size={14} />}
          <span>{label}</span>
          <span className="quiet small sound-help">{help}</span>
        </button>
        {after}
      </div>
      {open && children}
    </li>
  );
}
