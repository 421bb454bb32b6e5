import type { ReactNode } from 'react';
import type { EffectTable } from '../../api/client';
import type { DrawnEffect } from '../../hand/gesture';
import type { Command } from '../../reel/session';
import { firstValue, type Params } from '../../reel/document';
import { EffectDrawing } from './drawing/EffectDrawing';
import type { DrawingData } from './drawing/useDrawing';
import { fitting, parameterOf, setting, valueOf } from '../values/params';

type Grip = DrawingData['grips'][number];

interface Props {
  /** Undefined until it has come, null if there is none of this effect. */
  drawing: DrawingData | null | undefined;
  table: EffectTable;
  /** With those that are being turned. */
  params: Params;
  /** The edits that a grip stands for. */
  edits: (values: Params) => readonly Command[];
  drawn: DrawnEffect;
  /** What stands beside the drawing's facts. */
  beside: ReactNode;
}

/** The drawing of an effect; its grips set the effect's parameters. */
export function EffectPicture(props: Props) {
  const { drawing, table, params, edits, drawn, beside } = props;
  if (drawing === undefined) return <div className="effect-drawing waiting" aria-hidden="true" />;
  if (drawing === null) return <div className="effect-drawing">{beside}</div>;
  const named = (grip: Grip) => [grip.x_parameter, grip.y_parameter].filter((id) => id !== '');
  const free = (grip: Grip) => named(grip).every((id) => typeof valueOf(params, id) !== 'object');
  const values = (grip: Grip, x: number, y: number): Params => {
    let found: Params = {};
    const put = (id: string, value: number) => {
      const parameter = parameterOf(table, id);
      if (parameter)
        found = { ...found, ...setting({ ...params, ...found }, id, fitting(parameter, value)) };
    };
    if (drawing.round) {
      // Seen from above: a direction, unwrapped near where it was, and a distance.
      const before = firstValue(valueOf(params, grip.x_parameter), 0);
      const turn = (Math.atan2(x, y) * 180) / Math.PI;
      put(grip.x_parameter, turn + 360 * Math.round((before - turn) / 360));
      put(grip.y_parameter, Math.hypot(x, y));
      return found;
    }
    if (grip.x_parameter) put(grip.x_parameter, x / grip.x_factor);
    if (grip.y_parameter) put(grip.y_parameter, y / grip.y_factor);
    return found;
  };
  return (
    <>
      <EffectDrawing
        drawing={drawing}
        label={table.label}
        beside={beside}
        free={free}
        edits={(grip, x, y) => edits(values(grip, x, y))}
        drawn={drawn}
      />
      {drawing.beneath && (
        <EffectDrawing
          drawing={drawing.beneath}
          label={`${table.label} over time`}
          free={() => false}
          edits={() => []}
          drawn={drawn}
        />
      )}
    </>
  );
}
