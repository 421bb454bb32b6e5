import { Tabs } from '@mantine/core';
import { useCallback, useEffect } from 'react';
import { Later } from '../../ui/Later';
import { Splitter } from '../../ui/Splitter';
import { DropZone } from '../media/DropZone';
import { useSelection } from '../selected/selection';
import { History } from '../history/History';
import { Lists } from '../lists/Lists';
import { showTab, useLeftTab, type Tab } from '../tools/leftTab';
import { PictureView } from '../picture/PictureView';
import { Sheet } from './Sheet';
import { Shelf } from '../shelf/Shelf';

/** The picture, and what is selected. */
export function LeftColumn() {
  const tab = useLeftTab((s) => s.tab);
  const selection = useSelection((s) => s.selection);
  useEffect(() => {
    if (selection.kind !== 'none') showTab('selected');
  }, [selection]);
  const showShelf = useCallback(() => showTab('shelf'), []);
  useEffect(() => () => showTab('selected'), []);
  return (
    <aside className="left" aria-label="Picture and selection">
      <DropZone onDrop={showShelf} />
      <PictureView />
      <Splitter
        label="Height of the picture"
        kept="bathyphon.picture"
        property="--picture"
        along="y"
        low={60}
        high={700}
      />
      <Tabs
        value={tab}
        onChange={(to) => showTab(to as Tab)}
        className="left-tabs"
        keepMounted={false}
      >
        <Tabs.List grow>
          <Tabs.Tab value="selected">Selected</Tabs.Tab>
          <Tabs.Tab value="shelf">Media &amp; sounds</Tabs.Tab>
          <Tabs.Tab value="lists">Lists</Tabs.Tab>
          <Tabs.Tab value="history">History</Tabs.Tab>
        </Tabs.List>
        <Tabs.Panel value="selected" data-heard>
          <Later frames={4}>
            <Sheet />
          </Later>
        </Tabs.Panel>
        <Tabs.Panel value="shelf" tabIndex={0}>
          <Shelf />
        </Tabs.Panel>
        <Tabs.Panel value="lists" tabIndex={0}>
          <Lists />
        </Tabs.Panel>
        <Tabs.Panel value="history" tabIndex={0}>
          <History />
        </Tabs.Panel>
      </Tabs>
    </aside>
  );
}
