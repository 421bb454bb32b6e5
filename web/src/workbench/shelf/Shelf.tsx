import { SegmentedControl } from '@mantine/core';
import { ReelMedia } from '../media/ReelMedia';
import { PresetBrowser } from '../presets/PresetBrowser';
import { RecipeBrowser } from '../recipes/RecipeBrowser';
import { SoundBrowser } from '../sounds/SoundBrowser';
import { showView, useLeftTab, type View } from '../tools/leftTab';

const VIEWS = [
  { value: 'reel', label: 'In this reel' },
  { value: 'sounds', label: 'Sounds' },
  { value: 'recipes', label: 'Recipes' },
  { value: 'presets', label: 'Presets' },
];

/** What can be laid: the reel's media, and the sounds that ship. */
export function Shelf() {
  const view = useLeftTab((s) => s.view);
  const wanted = useLeftTab((s) => s.wanted);
  return (
    <div className="shelf">
      <SegmentedControl
        fullWidth
        size="xs"
        aria-label="What is shown"
        data={VIEWS}
        value={view}
        onChange={(to) => showView(to as View)}
      />
      {view === 'reel' && <ReelMedia />}
      {view === 'sounds' && <SoundBrowser key={wanted?.time} wanted={wanted} />}
      {view === 'recipes' && <RecipeBrowser key={wanted?.time} wanted={wanted} />}
      {view === 'presets' && <PresetBrowser />}
    </div>
  );
}
