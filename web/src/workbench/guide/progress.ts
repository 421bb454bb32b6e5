/** How far one is with the first steps; left, they are taken up again where one was. */
import { create } from 'zustand';
import { storedList, storeList } from '../../ui/stored';
import { STEPS } from './steps';

const DONE = 'bathyphon.first-steps';

interface Guide {
  open: boolean;
  /** Ids of what has been done, or passed over. */
  done: string[];
}

export const useGuide = create<Guide>()(() => ({ open: false, done: storedList<string>(DONE) }));

/** Take them up where they were left; from the beginning, once all have been done. */
export function openGuide() {
  const { done } = useGuide.getState();
  const all = STEPS.every((step) => done.includes(step.id));
  keep(all ? [] : done);
  useGuide.setState({ open: true });
}

export const leaveGuide = () => useGuide.setState({ open: false });

export function stepDone(id: string) {
  const { done } = useGuide.getState();
  if (!done.includes(id)) keep([...done, id]);
}

function keep(done: string[]) {
  storeList(DONE, done);
  useGuide.setState({ done });
}
