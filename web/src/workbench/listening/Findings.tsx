import { Button, Progress } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useSession } from '../../reel/session';
import { useReel } from '../../reel/useReel';
import { selectionOf, useSelection } from '../selected/selection';
import { useTools } from '../tools/context';
import { TextField } from '../fields/TextField';
import { useAdvice } from '../tools/advice';
import { checks, judgementOf, type Finding } from './judgement';
import { Thresholds } from './Thresholds';

/** What sounds wrong in the reel, each with its place, its reason and a cure in one step. */
export function Findings() {
  const { reel } = useTools();
  const revision = useSession((s) => s.committed.revision);
  const { data, error, refetch } = useQuery(judgementOf(reel));
  const old = data !== undefined && data.revision !== revision;
  useEffect(() => {
    if (!old) return undefined;
    // What is being changed is looked at again when it rests.
    const timer = setTimeout(() => void refetch(), 1500);
    return () => clearTimeout(timer);
  }, [old, revision, refetch]);
  if (error) return <p className="trouble">{error.message}</p>;
  const working = !data || !data.done || old;
  return (
    <section className="findings" aria-label="Findings">
      <h3>
        Findings <span className="quiet">{data?.done ? data.findings.length : ''}</span>
      </h3>
      {data?.failed && <p className="trouble">{data.failed}</p>}
      {working && (
        <div role="status">
          <p className="small quiet">Listening through the reel…</p>
          <Progress
            value={100 * (old ? 0 : (data?.share ?? 0))}
            size="sm"
            aria-label="Heard so far"
          />
        </div>
      )}
      {data?.done && !old && data.findings.length === 0 && (
        <p className="quiet">Nothing sounds wrong.</p>
      )}
      <ol>
        {data?.findings.map((finding) => (
          <Line key={finding.id} finding={finding} stale={old} />
        ))}
      </ol>
      <Dismissed findings={data?.dismissed ?? []} />
      <Thresholds />
    </section>
  );
}

function Line({ finding, stale }: { finding: Finding; stale: boolean }) {
  const { clock, player } = useTools();
  const [asking, ask] = useState(false);
  const { edit } = useSession.getState();
  const { cure, instead } = finding;
  const go = () => {
    player.seek(finding.start);
    const part = selectionOf(finding.of);
    if (part) useSelection.getState().select(part);
  };
  return (
    <li className="finding" data-stale={stale || undefined}>
      <div className="finding-head">
        <button type="button" className="figure place" onClick={go} title="Go there">
          {clock.timecodeOfFrame(clock.frameOfSample(finding.start))}
        </button>
        <b>{finding.title}</b>
      </div>
      <p className="small">
        {finding.why} <span className="quiet">{Math.round(100 * finding.sure)} % sure.</span>
      </p>
      <About kind={finding.kind} />
      <div className="finding-foot">
        {[cure, instead].map(
          (way) =>
            way && (
              <Button
                key={way.label}
                size="compact-xs"
                variant="default"
                disabled={stale}
                onClick={() => void edit(way.commands as never)}
              >
                {way.label}
              </Button>
            ),
        )}
        <Button size="compact-xs" variant="subtle" onClick={() => ask(!asking)}>
          Intended…
        </Button>
      </div>
      {asking && <Dismiss finding={finding} done={() => ask(false)} />}
    </li>
  );
}

/** What such a finding is and what one does about it; F1 shows it. */
function About({ kind }: { kind: string }) {
  const shown = useAdvice((s) => s.shown);
  const { data } = useQuery({ ...checks, enabled: shown });
  const check = data?.find((c) => c.kind === kind);
  if (!shown || !check) return null;
  return (
    <section className="advice" aria-label={`About ${check.label}`}>
      <p>{check.help}</p>
      {check.thresholds.map((t) => (
        <p key={t.id} className="small quiet">
          {t.help} <i>{t.source}.</i>
        </p>
      ))}
    </section>
  );
}

/** A word on why it is as it should be; it stays dismissed. */
function Dismiss({ finding, done }: { finding: Finding; done: () => void }) {
  const { edit } = useSession.getState();
  const dismiss = (word: string) =>
    void edit({ kind: 'dismiss_finding', finding: finding.id, word }).then(done);
  return (
    <div className="dismiss">
      <TextField label="Why it is intended" placeholder="Why, in a word" value="" save={dismiss} />
      <Button size="compact-xs" variant="default" onClick={() => dismiss('')}>
        Dismiss without a word
      </Button>
    </div>
  );
}

function Dismissed({ findings }: { findings: Finding[] }) {
  const { edit } = useSession.getState();
  const words = useReel((d) => d.listening?.dismissed);
  if (findings.length === 0) return null;
  return (
    <details className="dismissed">
      <summary className="small">{findings.length} dismissed</summary>
      <ul>
        {findings.map((f) => {
          const word = words?.find((w) => w.finding === f.id)?.word;
          return (
            <li key={f.id} className="small">
              {f.title}
              {word ? `: “${word}”` : ''}{' '}
              <Button
                size="compact-xs"
                variant="subtle"
                onClick={() => void edit({ kind: 'recall_finding', finding: f.id })}
              >
                Bring back
              </Button>
            </li>
          );
        })}
      </ul>
    </details>
  );
}
