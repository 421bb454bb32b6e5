import { useState } from 'react';

interface Props {
  label: string;
  value: string;
  placeholder: string;
  save: (text: string) => void;
}

/** A text that is edited in place: Enter keeps it, Escape does not. */
export function TextField({ label, value, placeholder, save }: Props) {
  const [text, setText] = useState<string | undefined>();
  const finish = () => {
    if (text !== undefined && text.trim() !== value) save(text.trim());
    setText(undefined);
  };
  return (
    <input
      className="text-field"
      aria-label={label}
      placeholder={placeholder}
      value={text ?? value}
      onChange={(e) => setText(e.currentTarget.value)}
      onBlur={finish}
      onKeyDown={(e) => {
        if (e.key === 'Enter') e.currentTarget.blur();
        if (e.key === 'Escape') {
          e.stopPropagation();
          setText(undefined);
        }
      }}
    />
  );
}
