import type { EffectTable } from '../../api/client';
import { useAdvice } from '../tools/advice';

/** What to listen for, where to begin, and when not to use it. */
export function Advice({ table }: { table: EffectTable }) {
  const shown = useAdvice((s) => s.shown);
  if (!shown) return null;
  const { listen, start, avoid } = table.advice;
  return (
    <section className="advice" aria-label={`About ${table.label}`}>
      <p>{table.help}</p>
      <p>
        <b>Listen for:</b> {listen}
      </p>
      <p>
        <b>Begin with:</b> {start}
      </p>
      <p>
        <b>Not for:</b> {avoid}
      </p>
    </section>
  );
}
