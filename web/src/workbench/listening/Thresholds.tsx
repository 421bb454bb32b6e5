import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useSession } from '../../reel/session';
import { useReel } from '../../reel/useReel';
import { TextField } from '../fields/TextField';
import { checks, type Check } from './judgement';

type Threshold = Check['thresholds'][number];

/** By which numbers the reel is judged; each says what it decides and where it comes from. */
export function Thresholds() {
  const { data } = useQuery(checks);
  return (
    <details className="thresholds">
      <summary>What is looked for, and by which numbers</summary>
      {data?.map((check) => (
        <section key={check.kind}>
          <h4>{check.label}</h4>
          <p className="small quiet">{check.help}</p>
          {check.thresholds.map((t) => (
            <Row key={t.id} threshold={t} />
          ))}
        </section>
      ))}
    </details>
  );
}

function Row({ threshold }: { threshold: Threshold }) {
  const { id, label, unit, help, source } = threshold;
  const set = useReel((d) => d.listening?.thresholds);
  const isSet = set !== undefined && id in set;
  const value = isSet ? set[id] : threshold.value;
  const { edit, tell } = useSession.getState();
  const keep = (text: string) => {
    const given = text.replace('−', '-').replace(unit, '').replace(',', '.').trim();
    const number = Number(given);
    if (given === '') void edit({ kind: 'set_threshold', id, value: null });
    else if (Number.isFinite(number) && number >= threshold.least && number <= threshold.most)
      void edit({ kind: 'set_threshold', id, value: number });
    else tell(`Give ${label} from ${threshold.least} to ${threshold.most} ${unit}, or nothing.`);
  };
  return (
    <div className="threshold">
      <div className="threshold-row">
        <span title={`${help} ${source}.`}>{label}</span>
        <TextField
          label={`${label}, ${unit}`}
          value={shown(value)}
          placeholder="not asked for"
          save={keep}
        />
        <span className="quiet small">{unit}</span>
      </div>
      {isSet && (
        <Button
          size="compact-xs"
          variant="subtle"
          onClick={() => void edit({ kind: 'set_threshold', id, reset: true })}
        >
          Reset
        </Button>
      )}
      <p className="small quiet">
        {help} <i>{source}.</i>
      </p>
    </div>
  );
}

function shown(value: number | null | undefined): string {
  return value === null || value === undefined ? '' : String(value).replace('-', '−');
}
