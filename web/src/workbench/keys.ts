/** Keys that work everywhere in the workbench, unless something is being typed. */
import { useEffect } from 'react';
import { usePlayer } from '../player/player';
import { useSession } from '../reel/session';
import { useClipEdits } from './clipEdits';
import { useWorkbench } from './context';
import { useTransport } from './transport';

export const KEYS = [
  ['Space', 'Play or pause'],
  ['← →', 'One frame back or on'],
  ['Shift + ← →', 'Five frames back or on'],
  ['↑ ↓', 'Previous or next cut'],
  ['Enter', 'Play around the nearest cut'],
  ['S', 'Next speed: half, whole, double'],
  ['Z, Shift + Z', 'Zoom to what is selected, to the whole reel'],
  ['[ ]', 'Previous or next onset of the selected clip, or edge of a part'],
  ['M', 'Drop a marker at what is heard'],
  [', .', 'Previous or next marker'],
  ['T', 'Treated or untreated'],
  ['O', 'Loop the range'],
  ['Home, End', 'To the beginning or the end'],
  ['Ctrl + Z', 'Undo'],
  ['Ctrl + Shift + Z', 'Redo'],
  ['Delete', 'Remove the selected treatment or clips'],
  ['Shift + Delete', 'Remove the selected clips and close the gap'],
  ['Alt + ← →', 'Move the selected clips by a frame; with Shift by five'],
  ['Shift + Enter', 'Split clips at the playhead'],
  ['Ctrl + J', 'Join two clips, or one with the next'],
  ['Ctrl + D', 'Duplicate the selected clips'],
  ['Ctrl + C, Ctrl + V', 'Copy the selected clips, paste them at the playhead'],
] as const;

function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable ||
      ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName) ||
      target.closest(
        '[role=slider], [role=dialog], [role=menu], [role=listbox], .reorder-handle',
      ) !== null)
  );
}

export function useKeys() {
  const { player } = useWorkbench();
  const transport = useTransport();
  const clips = useClipEdits();
  useEffect(() => {
    const clipKeys = (key: string): boolean => {
      const found = { j: clips.join, d: clips.duplicate, c: clips.copy, v: clips.paste }[key];
      if (!found || (key !== 'v' && !clips.any())) return false;
      found();
      return true;
    };
    const down = (e: KeyboardEvent) => {
      if (e.defaultPrevented || isTyping(e.target)) return;
      const command = e.ctrlKey || e.metaKey;
      if (command && e.key.toLowerCase() === 'z') {
        const session = useSession.getState();
        void (e.shiftKey ? session.redoLast() : session.undoLast());
      } else if (command && clipKeys(e.key.toLowerCase())) {
        // Done.
      } else if (e.altKey && !command && e.key.startsWith('Arrow') && clips.any()) {
        if (e.key === 'ArrowLeft') clips.nudge(e.shiftKey ? -5 : -1);
        else if (e.key === 'ArrowRight') clips.nudge(e.shiftKey ? 5 : 1);
        else return;
      } else if (command || e.altKey) return;
      else if ((e.key === 'Delete' || e.key === 'Backspace') && clips.any())
        clips.remove(e.shiftKey);
      else if (e.key === 'Enter' && e.shiftKey) clips.split();
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
      else if (e.key.toLowerCase() === 's') {
        const { speed } = usePlayer.getState();
        player.setSpeed(speed === 1 ? 2 : speed === 2 ? 0.5 : 1);
      } else if (e.key === ',') transport.toMarker(-1);
      else if (e.key === '.') transport.toMarker(1);
      else return;
      e.preventDefault();
    };
    window.addEventListener('keydown', down);
    return () => window.removeEventListener('keydown', down);
  }, [player, transport, clips]);
}
