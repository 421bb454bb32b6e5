import { Button, NativeSelect, SegmentedControl } from '@mantine/core';
import { findChain } from '../../reel/document';
import { useReel } from '../../reel/useReel';
import { readValue, type Measured } from '../../typed/values';
import { TypedField } from '../fields/TypedField';
import { selectionOf, useSelection } from '../selected/selection';
import { figure, formatValue } from '../values/values';
import { LOOKS } from './looks';
import { hzText } from './looks/spectrum';
import { openAnalysis } from './AnalyseMenu';
import { DECAY, useOpened, type Open, type Shown, type Sides } from './opened';
import { SpectrumDrawing } from './SpectrumDrawing';
import { useKinds } from './useColumns';
import { useTailOf } from './useTail';

const decibels = (label: string, low: number, high: number): Measured => ({
  label,
  unit: 'dB',
  low,
  high,
  scale: 'linear',
  default: null,
  whole: false,
});
const TOP = decibels('Top', -100, 12);
const SPAN = decibels('Range', 10, 150);

const SHARP = [
  { value: 'time', label: 'Time' },
  { value: 'both', label: 'Balanced' },
  { value: 'pitch', label: 'Frequency' },
];

/** How an analysis is shown, and what it says of the moment and of the whole. */
export function AnalysisSheet({ name }: { name: string }) {
  const open = useOpened((s) => s.open.find((one) => one.name === name));
  const of = useReel((d) => (open && findChain(d, open.of)?.name) ?? '');
  const kinds = useKinds();
  if (!open || !of) return <p className="pad quiet">This analysis has been closed.</p>;
  const kind = kinds.find((k) => k.id === open.kind);
  const label = kind?.label ?? 'Decay';
  const set = (how: Partial<Shown>) => useOpened.getState().change(name, how);
  return (
    <div className="sheet">
      <div className="sheet-head">
        <h2 className="sheet-title">
          <span>{label}</span>
          <span className="quiet small">{open.range ? `a range on ${of}` : `of ${of}`}</span>
        </h2>
        <p className="small quiet">{kind?.help ?? 'How the tail dies away, octave by octave.'}</p>
      </div>
      <div className="sheet-body analysis-sheet">
        {open.kind !== DECAY && <SidesField open={open} set={set} />}
        {open.kind === 'spectrum' && <SpectrumFields open={open} set={set} />}
        {(open.kind === 'spectrum' || open.kind === 'stereo') && (
          <ColourFields open={open} set={set} />
        )}
        {open.kind === DECAY ? <TailTable open={open} /> : <SpectrumDrawing open={open} />}
        <Others open={open} />
      </div>
      <div className="sheet-foot">
        <Button size="compact-sm" variant="subtle" onClick={() => set({ large: !open.large })}>
          {open.large ? 'Smaller' : 'Larger'}
        </Button>
        <Button
          size="compact-sm"
          variant="subtle"
          onClick={() => {
            useOpened.getState().close(name);
            useSelection.getState().select(selectionOf(open.of) ?? { kind: 'none' });
          }}
        >
          Close
        </Button>
      </div>
    </div>
  );
}

interface FieldsProps {
  open: Open;
  set: (how: Partial<Shown>) => void;
}

function SidesField({ open, set }: FieldsProps) {
  const look = LOOKS[open.kind];
  const data: { value: Sides; label: string }[] = [
    { value: 'after', label: 'After' },
    { value: 'before', label: 'Before' },
    { value: 'both', label: look?.over ? 'Overlaid' : 'Both' },
    ...(look?.difference ? [{ value: 'difference' as const, label: 'Change' }] : []),
  ];
  return (
    <div className="analysis-field">
      <span className="control-label">Show</span>
      <SegmentedControl
        size="xs"
        aria-label="Which side is shown"
        data={data}
        value={open.sides}
        onChange={(sides) => set({ sides: sides as Sides })}
      />
    </div>
  );
}

function SpectrumFields({ open, set }: FieldsProps) {
  return (
    <>
      <div className="analysis-field">
        <span className="control-label">Scale</span>
        <SegmentedControl
          size="xs"
          aria-label="Scale of frequencies"
          data={[
            { value: 'log', label: 'Octaves' },
            { value: 'mel', label: 'Mel' },
          ]}
          value={open.axis}
          onChange={(axis) => set({ axis: axis as Shown['axis'] })}
        />
      </div>
      <div className="analysis-field">
        <span className="control-label">Detail in</span>
        <NativeSelect
          size="xs"
          aria-label="What it shows in detail"
          data={SHARP}
          value={open.sharp}
          onChange={(e) => set({ sharp: e.currentTarget.value as Shown['sharp'] })}
        />
      </div>
    </>
  );
}

function ColourFields({ open, set }: FieldsProps) {
  const fields = [
    { measured: TOP, value: open.top, keep: (top: number) => set({ top }) },
    { measured: SPAN, value: open.span, keep: (span: number) => set({ span }) },
  ];
  return (
    <div className="analysis-field">
      <span className="control-label">Colours</span>
      {fields.map(({ measured, value, keep }) => (
        <label key={measured.label} className="analysis-colour">
          <span className="small">{measured.label.toLowerCase()}</span>
          <TypedField
            className="number"
            label={`${measured.label} of the colours`}
            shown={formatValue(measured, value)}
            read={(text) => readValue(measured, text)}
            keep={keep}
            nudge={(steps) =>
              keep(Math.min(measured.high, Math.max(measured.low, value + 5 * steps)))
            }
          />
        </label>
      ))}
    </div>
  );
}

/** T20 and T30 of each octave. */
function TailTable({ open }: { open: Open }) {
  const { data, error } = useTailOf(open);
  if (error) return <p className="quiet">{error.message}</p>;
  if (!data) return <p className="quiet">Measuring the decay …</p>;
  return (
    <table className="tail-table">
      <caption className="small quiet">
        Time to fall by 60 dB, from the first 20 dB (T20) and 30 dB (T30).
      </caption>
      <thead>
        <tr>
          <th>Octave</th>
          <th>T20</th>
          <th>T30</th>
        </tr>
      </thead>
      <tbody>
        {data.bands.map((band) => (
          <tr key={band.hz}>
            <th>{hzText(band.hz)}</th>
            <td>{figure(band.t20 ?? undefined, 2)} s</td>
            <td>{figure(band.t30 ?? undefined, 2)} s</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The other kinds, of the same. */
function Others({ open }: { open: Open }) {
  const kinds = useKinds();
  return (
    <div className="analysis-others">
      <span className="small quiet">Also open</span>
      {kinds
        .filter((kind) => kind.id !== open.kind)
        .map((kind) => (
          <Button
            key={kind.id}
            size="compact-sm"
            variant="default"
            onClick={() => openAnalysis(kind.id, [open.of], open.range)}
          >
            {kind.label}
          </Button>
        ))}
    </div>
  );
}
