import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useTools } from '../tools/context';
import { bringInFiles } from './imports';

/** Files dropped anywhere on the window come into the reel. */
export function DropZone({ onDrop }: { onDrop: () => void }) {
  const { clock } = useTools();
  const queries = useQueryClient();
  const [over, setOver] = useState(false);
  useEffect(() => {
    const holdsFiles = (e: DragEvent) => e.dataTransfer?.types.includes('Files') ?? false;
    const move = (e: DragEvent) => {
      if (!holdsFiles(e)) return;
      e.preventDefault();
      setOver(true);
    };
    const leave = (e: DragEvent) => {
      if (!e.relatedTarget) setOver(false);
    };
    const drop = (e: DragEvent) => {
      if (!holdsFiles(e)) return;
      e.preventDefault();
      setOver(false);
      const files = [...(e.dataTransfer?.files ?? [])];
      if (!files.length) return;
      onDrop();
      bringInFiles(files, clock, () => queries.invalidateQueries({ queryKey: ['media'] }));
    };
    window.addEventListener('dragover', move);
    window.addEventListener('dragleave', leave);
    window.addEventListener('drop', drop);
    return () => {
      window.removeEventListener('dragover', move);
      window.removeEventListener('dragleave', leave);
      window.removeEventListener('drop', drop);
    };
  }, [clock, queries, onDrop]);
  return over ? (
    <div className="drop-zone">
      <p>Let go: each sound gets a track of its own.</p>
    </div>
  ) : null;
}
