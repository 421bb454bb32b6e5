/** A folder of sounds on its way in, two files at a time. */
import { create } from 'zustand';
import { transferSound } from '../../../api/uploads';

const AT_ONCE = 2;
/** A list of thousands is not asked for anew after each of them. */
const SHOWN_EVERY = 10;
const SOUNDS = /\.(wav|wave|aif|aiff|flac|mp3|m4a|aac|ogg|opus|wma|caf|w64|bwf)$/i;

interface Bringing {
  /** How many there are, have come, and could not be taken in. */
  all: number;
  come: number;
  refused: string[];
  stop: AbortController | undefined;
}

export const useBringing = create<Bringing>()(() => ({
  all: 0,
  come: 0,
  refused: [],
  stop: undefined,
}));

/** Take in all sounds of a folder, each with the folder that it lies in. */
export async function bringFolder(
  files: readonly File[],
  rate: number,
  refresh: () => void,
): Promise<void> {
  const waiting = files.filter((file) => SOUNDS.test(file.name));
  const stop = new AbortController();
  useBringing.setState({ all: waiting.length, come: 0, refused: [], stop });
  const work = async () => {
    for (let file = waiting.shift(); file && !stop.signal.aborted; file = waiting.shift()) {
      const sending = transferSound(file, rate, folderOf(file));
      const cancel = () => sending.cancel();
      stop.signal.addEventListener('abort', cancel);
      try {
        await sending.done;
      } catch (error) {
        const said = `${file.name}: ${(error as Error).message}`;
        if (!stop.signal.aborted) useBringing.setState((s) => ({ refused: [...s.refused, said] }));
      } finally {
        stop.signal.removeEventListener('abort', cancel);
      }
      useBringing.setState((s) => ({ come: s.come + 1 }));
      if (useBringing.getState().come % SHOWN_EVERY === 0) refresh();
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  refresh();
  useBringing.setState({ stop: undefined });
}

/** Where a file lies within what was chosen: “Water/Brooks”. */
function folderOf(file: File): string {
  return file.webkitRelativePath.split('/').slice(0, -1).join('/');
}
