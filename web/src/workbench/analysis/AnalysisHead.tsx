import { ActionIcon, Menu, Tooltip } from '@mantine/core';
import { IconDots, IconX } from '@tabler/icons-react';
import { reelNow } from '../../reel/useReel';
import { useSelection } from '../selected/selection';
import { useTools } from '../tools/context';
import { inksOf } from './inks';
import type { Box } from './looks/look';
import { DECAY, useOpened, type Open } from './opened';
import type { Picture } from './picture';
import { saveImage, saveTable } from './saving';

interface HeadProps {
  open: Open;
  label: string;
  picture: Picture;
  of: string;
  box: Box;
}

/** What it is and of what; how it is shown, saved and closed. */
export function AnalysisHead({ open, label, of, picture, box }: HeadProps) {
  const select = useSelection((s) => s.select);
  const chosen = useSelection(
    (s) => s.selection.kind === 'analysis' && s.selection.name === open.name,
  );
  const { change, close } = useOpened.getState();
  const { scheme } = useTools();
  const file = `${reelNow().name || 'Untitled'} · ${label} of ${of}`;
  return (
    <div className="track-head lane-head" data-chosen={chosen || undefined}>
      <div className="lane-title">
        <button
          type="button"
          className="lane-name"
          title={`${label} of ${of}: how it is shown`}
          aria-label={`How the ${label.toLowerCase()} of ${of} is shown`}
          onClick={() => select({ kind: 'analysis', name: open.name })}
        >
          {label}
        </button>
        <Tooltip label="Close this analysis">
          <ActionIcon
            size={24}
            variant="subtle"
            color="gray"
            aria-label={`Close the ${label.toLowerCase()} of ${of}`}
            onClick={() => close(open.name)}
          >
            <IconX size={13} />
          </ActionIcon>
        </Tooltip>
      </div>
      <span className="name lane-of" title={of}>
        {open.range ? `range on ${of}` : of}
      </span>
      <div className="lane-foot">
        <span className="small quiet grow">
          {open.kind === DECAY ? '' : SIDE_NAMES[open.sides]}
        </span>
        <Menu position="bottom-start" width={240}>
          <Menu.Target>
            <ActionIcon
              size={24}
              variant="subtle"
              color="gray"
              aria-label={`More for the ${label.toLowerCase()} of ${of}`}
            >
              <IconDots size={15} />
            </ActionIcon>
          </Menu.Target>
          <Menu.Dropdown>
            <Menu.Item onClick={() => select({ kind: 'analysis', name: open.name })}>
              How it is shown
            </Menu.Item>
            <Menu.Item onClick={() => change(open.name, { large: !open.large })}>
              {open.large ? 'Smaller' : 'Larger'}
            </Menu.Item>
            <Menu.Divider />
            <Menu.Item
              onClick={(e) => void saveImage(file, picture, box, inksOf(e.currentTarget, scheme))}
            >
              Save the view as a picture (PNG)
            </Menu.Item>
            <Menu.Item onClick={() => void saveTable(file, picture, box)}>
              Save the view as a table (CSV)
            </Menu.Item>
          </Menu.Dropdown>
        </Menu>
      </div>
    </div>
  );
}

const SIDE_NAMES = {
  after: 'after',
  before: 'before',
  both: 'after and before',
  difference: 'after − before',
};
