import { ActionIcon, Menu } from '@mantine/core';
import { IconDots } from '@tabler/icons-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { whenOf } from '../ui/when';
import { useReelEdits } from './reelEdits';

type Line = Schemas['ReelLine'];

/** One reel of the list: a frame of it, how long it is, who changed it when. */
export function ReelLine({ reel }: { reel: Line }) {
  const [naming, setNaming] = useState(false);
  const edits = useReelEdits();
  return (
    <li className="reel-line">
      <Frame reel={reel} />
      {naming ? (
        <input
          className="text-field reel-naming"
          aria-label={`New name of ${reel.name}`}
          // It is there because its menu was asked for it.
          autoFocus
          defaultValue={reel.name}
          onFocus={(e) => e.currentTarget.select()}
          onBlur={(e) => {
            const name = e.currentTarget.value.trim();
            if (name && name !== reel.name) edits.rename(reel, name);
            setNaming(false);
          }}
          onKeyDown={(e) => {
            if (e.key === 'Enter') e.currentTarget.blur();
            if (e.key === 'Escape') setNaming(false);
          }}
        />
      ) : (
        <Link to={`/reels/${reel.id}`} className="name">
          {reel.name}
        </Link>
      )}
      <span className="number quiet">{lengthOf(reel.seconds)}</span>
      <span className="quiet reel-when">
        {whenOf(reel.changed)}
        {reel.changed_by && ` by ${reel.changed_by}`}
      </span>
      <Menu position="bottom-end">
        <Menu.Target>
          <ActionIcon
            title="Rename, duplicate, download, put into the trash"
            variant="subtle"
            color="gray"
            aria-label={`More for ${reel.name}`}
          >
            <IconDots size={18} />
          </ActionIcon>
        </Menu.Target>
        <Menu.Dropdown>
          <Menu.Item onClick={() => setNaming(true)}>Rename</Menu.Item>
          <Menu.Item onClick={() => edits.duplicate(reel)}>Duplicate</Menu.Item>
          <Menu.Item
            title="A new reel that asks for other files and keeps all that was done"
            onClick={() => edits.template(reel)}
          >
            Use as a template
          </Menu.Item>
          <Menu.Item component="a" href={`/api/reels/${reel.id}/archive.zip`} download>
            Download with its media
          </Menu.Item>
          <Menu.Item color="var(--bad)" onClick={() => edits.trash(reel)}>
            Put into the trash
          </Menu.Item>
        </Menu.Dropdown>
      </Menu>
    </li>
  );
}

/** The middle frame of its picture, out of the strip that the timeline draws. */
export function Frame({ reel }: { reel: Line }) {
  const { frame } = reel;
  if (!frame) return <span className="reel-frame" aria-hidden="true" />;
  return (
    <span
      className="reel-frame"
      aria-hidden="true"
      style={{
        width: frame.width,
        height: frame.height,
        backgroundImage: `url(/api/media/${frame.media}/strip.jpg)`,
        backgroundPosition: `-${frame.x}px -${frame.y}px`,
      }}
    />
  );
}

/** "1:04" or "1:02:09". */
export function lengthOf(seconds: number): string {
  const whole = Math.round(seconds);
  const [hours, minutes, rest] = [
    Math.floor(whole / 3600),
    Math.floor(whole / 60) % 60,
    whole % 60,
  ];
  const two = (n: number) => String(n).padStart(2, '0');
  return hours ? `${hours}:${two(minutes)}:${two(rest)}` : `${minutes}:${two(rest)}`;
}
