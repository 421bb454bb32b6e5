import { Slider } from '@mantine/core';
import { useEffect, useRef, type PointerEvent, type SyntheticEvent } from 'react';
import { follow } from '../../hand/pointer';

interface Props {
  min: number;
  max: number;
  step?: number;
  value: number;
  thumbLabel: string;
  valueText?: string;
  disabled?: boolean;
  /** The hand is here now. */
  turn: (value: number) => void;
  /** It has let go, or a key has nudged it. */
  settle?: ((value: number, nudged: boolean) => void) | undefined;
  /** Given up in the middle of it; without this it is turned back. */
  giveUp?: (() => void) | undefined;
}

/**
 * A slider that is where the hand is. Mantine's follows a pointer one frame later: a tap is over
 * before it has begun, and Escape comes before what it gives up. So Mantine draws it and reads its
 * keys, and the pointer is followed as it is everywhere else.
 */
export function HandSlider(props: Props) {
  const { min, max, step = 1, value, thumbLabel, valueText, disabled, turn, settle } = props;
  const root = useRef<HTMLDivElement>(null);
  const leave = useRef<() => void>(undefined);
  const now = useRef(props);
  useEffect(() => {
    now.current = props;
  });
  useEffect(() => () => leave.current?.(), []);

  const pressed = (e: PointerEvent<HTMLDivElement>) => {
    const travel = root.current?.querySelector('.travel');
    if (disabled || e.button !== 0 || !travel) return;
    root.current?.focus();
    const before = value;
    const valueAt = ({ clientX }: { clientX: number }) => {
      const { left, width } = travel.getBoundingClientRect();
      const share = width ? Math.min(Math.max((clientX - left) / width, 0), 1) : 0;
      const steps = Math.round((share * (max - min)) / step);
      return Math.min(min + Number((steps * step).toPrecision(12)), max);
    };
    leave.current?.();
    leave.current = follow(e, {
      moved: (m) => now.current.turn(valueAt(m)),
      up: (m) => now.current.settle?.(valueAt(m), false),
      lost: () => (now.current.giveUp ?? (() => now.current.turn(before)))(),
    });
    turn(valueAt(e));
  };
  return (
    // Mantine's own ways of a pointer begin on what lies inside.
    <div
      className="hand-slider"
      onPointerDown={pressed}
      onMouseDownCapture={keepFrom}
      onTouchStartCapture={keepFrom}
    >
      <Slider
        ref={root}
        thumbLabel={thumbLabel}
        size="xs"
        thumbSize={24}
        classNames={{ trackContainer: 'travel' }}
        min={min}
        max={max}
        step={step}
        value={value}
        disabled={disabled === true}
        label={null}
        thumbProps={{ 'aria-valuetext': valueText }}
        onChange={turn}
        onChangeEnd={(v) => settle?.(v, true)}
      />
    </div>
  );
}

function keepFrom(e: SyntheticEvent) {
  e.stopPropagation();
}
