/** Keys that work everywhere in the workbench, unless something is being typed. */
import { useEffect } from 'react';
import { usePlayer } from '../player/player';
import { useSession } from '../reel/session';
import { useWorkbench } from './context';
import { useTransport } from './transport';

export const KEYS = [
  ['Space', 'Play or pause'],
  ['← →', 'One frame back or on'],
  ['Shift + ← →', 'Five frames back or on'],
  ['↑ ↓', 'Previous or next cut'],
  ['Enter', 'Play around the nearest cut'],
  ['J K L', 'Half, whole, double speed'],
  ['Z, Shift + Z', 'Zoom to what is selected, to the whole reel'],
  ['[ ]', 'Previous or next onset of the selected clip, or edge of a part'],
  ['M', 'Drop a marker at what is heard'],
  [', .', 'Previous or next marker'],
  ['T', 'Treated or untreated'],
  ['O', 'Loop the range'],
  ['Home, End', 'To the beginning or the end'],
  ['Ctrl + Z', 'Undo'],
  ['Ctrl + Shift + Z', 'Redo'],
  ['Delete', 'Remove the selected treatment'],
] as const;

function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable ||
      ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName) ||
      target.closest('[role=slider], [role=dialog], [role=menu], [role=listbox]') !== null)
  );
}

export function useKeys() {
  const { player } = useWorkbench();
  const transport = useTransport();
  useEffect(() => {
    const down = (e: KeyboardEvent) => {
      if (e.defaultPrevented || isTyping(e.target)) return;
      const command = e.ctrlKey || e.metaKey;
      if (command && e.key.toLowerCase() === 'z') {
        const session = useSession.getState();
        void (e.shiftKey ? session.redoLast() : session.undoLast());
      } else if (command || e.altKey) return;
      else if (e.key === ' ') {
        // A focused button would be pressed as well.
        if (e.target instanceof HTMLElement) e.target.blur();
        player.toggle();
      } else if (e.key === 'ArrowLeft') transport.step(e.shiftKey ? -5 : -1);
      else if (e.key === 'ArrowRight') transport.step(e.shiftKey ? 5 : 1);
      else if (e.key === 'ArrowUp') transport.toCut(-1);
      else if (e.key === 'ArrowDown') transport.toCut(1);
      else if (e.key === 'Home') player.seek(0);
      else if (e.key === 'End') player.seek(Number.MAX_SAFE_INTEGER);
      else if (e.key === 'Enter' && !(e.target instanceof HTMLButtonElement)) transport.aroundCut();
      else if (e.key.toLowerCase() === 't')
        player.setSide(usePlayer.getState().side === 'treated' ? 'untreated' : 'treated');
      else if (e.key.toLowerCase() === 'o') transport.toggleLoop();
      else if (e.key.toLowerCase() === 'm') transport.dropMarker();
      else if (e.key.toLowerCase() === 'z') transport.zoomTo(e.shiftKey ? 'all' : 'selection');
      else if (e.key === '[') transport.toOnset(-1);
      else if (e.key === ']') transport.toOnset(1);
      else if ('jkl'.includes(e.key.toLowerCase()))
        player.setSpeed({ j: 0.5, k: 1, l: 2 }[e.key.toLowerCase()] ?? 1);
      else if (e.key === ',') transport.toMarker(-1);
      else if (e.key === '.') transport.toMarker(1);
      else return;
      e.preventDefault();
    };
    window.addEventListener('keydown', down);
    return () => window.removeEventListener('keydown', down);
  }, [player, transport]);
}
