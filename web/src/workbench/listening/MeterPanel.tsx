import { Button, Progress } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { usePlayer } from '../../player/player';
import { useSession } from '../../reel/session';
import { useTools } from '../tools/context';
import { figure } from '../values/values';
import { judgementOf } from './judgement';

const FLOOR = -48;
const MARKS = [-36, -24, -18, -12, -6, 0];

const share = (db: number) => Math.max(0, Math.min(1, 1 - db / FLOOR));
const dbOf = (peak: number) => (peak > 0 ? 20 * Math.log10(peak) : FLOOR);

/** Two bars with their scale; red stays until the meters are reset. */
export function MeterBars() {
  const peaks = usePlayer((s) => s.peaks);
  const over = usePlayer((s) => s.overs.length > 0);
  return (
    <span className="meters" data-over={over || undefined}>
      {peaks.map((peak, side) => (
        <span key={side} className="meter">
          <span style={{ transform: `scaleX(${share(dbOf(peak))})` }} />
        </span>
      ))}
      <span className="meter-marks" aria-hidden>
        {MARKS.map((db) => (
          <span key={db} style={{ left: `${100 * share(db)}%` }} />
        ))}
      </span>
    </span>
  );
}

/** The loudness of the last three seconds, in a word. */
export function LoudnessNow() {
  const now = usePlayer((s) => s.levels?.shortTerm);
  return (
    <span className="loudness-now" aria-hidden>
      {figure(now, 1)} LUFS
    </span>
  );
}

/** All that is measured of what plays, and of the whole reel. */
export function MeterPanel() {
  const { player } = useTools();
  const levels = usePlayer((s) => s.levels);
  const rows: [string, string, string][] = [
    ['Last 0.4 s', figure(levels?.momentary, 1), 'LUFS'],
    ['Last 3 s', figure(levels?.shortTerm, 1), 'LUFS'],
    ['Since the reset', figure(levels?.integrated, 1), 'LUFS'],
    ['Loudness range', figure(levels?.range, 1), 'LU'],
    ['True peak', figure(levels?.truePeak, 1), 'dBTP'],
    ['Highest sample', figure(levels?.samplePeak, 1), 'dBFS'],
  ];
  return (
    <section className="meter-panel" aria-label="Meters">
      <div className="meter-head">
        <b>What plays</b>
        <Button size="compact-xs" variant="default" onClick={() => player.resetMeters()}>
          Reset
        </Button>
      </div>
      <dl className="figures">
        {rows.map(([label, value, unit]) => (
          <div key={label}>
            <dt>{label}</dt>
            <dd>
              {value} <span className="quiet">{unit}</span>
            </dd>
          </div>
        ))}
      </dl>
      <Correlation value={levels?.correlation} />
      <Overs />
      <WholeReel />
    </section>
  );
}

/** From −1, where both sides cancel, to 1, where they agree. */
function Correlation({ value }: { value: number | undefined }) {
  const at = 50 + 50 * (value ?? 0);
  return (
    <div className="correlation">
      <span className="small">Left and right</span>
      <span
        className="correlation-bar"
        role="meter"
        aria-label="Correlation of left and right"
        aria-valuemin={-1}
        aria-valuemax={1}
        aria-valuenow={Number((value ?? 0).toFixed(2))}
      >
        {value !== undefined && <span style={{ left: `${at}%` }} />}
      </span>
      <span className="figure">{figure(value, 2)}</span>
    </div>
  );
}

function Overs() {
  const { clock, player } = useTools();
  const overs = usePlayer((s) => s.overs);
  if (overs.length === 0) return null;
  return (
    <div className="overs">
      <span className="small">Over full scale at</span>
      {overs.slice(0, 12).map((sample) => (
        <Button
          key={sample}
          size="compact-xs"
          variant="default"
          onClick={() => player.seek(sample)}
        >
          {clock.timecodeOfFrame(clock.frameOfSample(sample))}
        </Button>
      ))}
      {overs.length > 12 && <span className="small quiet">and {overs.length - 12} more</span>}
    </div>
  );
}

function WholeReel() {
  const { reel } = useTools();
  const revision = useSession((s) => s.committed.revision);
  const [asked, ask] = useState<number>();
  const { data } = useQuery({ ...judgementOf(reel, asked), enabled: asked === revision });
  const levels = data?.levels;
  return (
    <div className="whole-reel">
      <div className="meter-head">
        <b>The whole reel</b>
        <Button size="compact-xs" variant="default" onClick={() => ask(revision)}>
          Measure
        </Button>
      </div>
      {data && !data.done && !levels && (
        <Progress value={100 * data.share} size="sm" aria-label="Measured so far" />
      )}
      {levels && (
        <p className="small">
          {asked !== revision && 'Before the last edit: '}
          {figure(levels.loudness, 1)} LUFS · range {figure(levels.range, 1)} LU · true peak{' '}
          {figure(levels.true_peak, 1)} dBTP
        </p>
      )}
    </div>
  );
}
