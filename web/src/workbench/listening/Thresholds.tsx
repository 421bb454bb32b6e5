import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useSession } from '../../reel/session';
import { useReel } from '../../reel/useReel';
import { readValue, type Measured, type Reading } from '../../typed/values';
import { TypedField } from '../fields/TypedField';
import { formatValue } from '../values/values';
import { checks, type Check } from './judgement';

type Threshold = Check['thresholds'][number];

/** By which numbers the reel is judged; each says what it decides and where it comes from. */
export function Thresholds() {
  const { data } = useQuery(checks);
  return (
    <details className="thresholds">
      <summary>What is checked, and the thresholds</summary>
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
  const { edit } = useSession.getState();
  const read = (text: string): Reading<number | null> =>
    text.trim() === '' ? { value: null } : readValue(measured(threshold), text);
  return (
    <div className="threshold">
      <div className="threshold-row">
        <span title={`${help} ${source}.`}>{label}</span>
        <TypedField
          className="text-field"
          label={`${label}, ${unit}`}
          shown={
            value === null || value === undefined ? '' : formatValue(measured(threshold), value)
          }
          placeholder="not asked for"
          read={read}
          keep={(value) => void edit({ kind: 'set_threshold', id, value })}
        />
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

/** A threshold as a value that is typed. */
function measured({ label, unit, least, most, value }: Threshold): Measured {
  return { label, unit, low: least, high: most, scale: 'linear', default: value, whole: false };
}
