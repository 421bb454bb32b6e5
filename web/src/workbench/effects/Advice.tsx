import { create } from 'zustand';
import type { EffectTable } from '../../api/client';

/** Whether effects say what they are for; F1 asks for it and sends it away. */
export const useAdvice = create<{ shown: boolean; toggle: () => void }>()((set) => ({
  shown: false,
  toggle: () => set((s) => ({ shown: !s.shown })),
}));

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
