import { Button, FileButton, Menu } from '@mantine/core';
import { useRef, useState } from 'react';
import { csrfToken, refusal } from '../../api/client';
import { useSession, type Command } from '../../reel/session';
import { useTools } from '../tools/context';

const FILES = [
  ['markers.csv', 'Markers as CSV'],
  ['markers.vtt', 'Markers as WebVTT'],
  ['cuts.csv', 'Cuts as CSV'],
] as const;

/** Markers and cuts to and from files that other programs read. */
export function ListFiles() {
  const { reel } = useTools();
  const edit = useSession((s) => s.edit);
  const [said, setSaid] = useState('');
  const again = useRef<() => void>(null);
  const read = async (file: File | null) => {
    if (!file) return;
    const body = new FormData();
    body.append('file', file);
    const answer = await fetch(`/api/reels/${reel}/lists`, {
      method: 'POST',
      headers: { 'X-CSRFToken': csrfToken() },
      body,
    });
    const data: unknown = await answer.json().catch(() => undefined);
    if (!answer.ok) {
      const fault = refusal(data, answer.status);
      setSaid(`${file.name}: ${fault.message}${fault.where ? ` (${fault.where})` : ''}`);
      return;
    }
    const { command, count } = data as { command: Command; count: number };
    const what = command.kind === 'add_markers' ? 'markers' : 'cuts';
    if (await edit(command)) setSaid(`${count} ${what} from ${file.name}`);
  };
  return (
    <div className="list-files">
      <FileButton
        resetRef={again}
        accept=".csv,.vtt,.edl,.otio"
        onChange={(file) => {
          // The same file, mended, can be chosen again.
          again.current?.();
          void read(file);
        }}
      >
        {(props) => (
          <Button {...props} size="compact-xs" variant="default">
            Import markers and cuts…
          </Button>
        )}
      </FileButton>
      <Menu position="top-start">
        <Menu.Target>
          <Button size="compact-xs" variant="default">
            Export markers and cuts…
          </Button>
        </Menu.Target>
        <Menu.Dropdown>
          {FILES.map(([name, label]) => (
            <Menu.Item
              key={name}
              component="a"
              href={`/api/reels/${reel}/lists/${name}`}
              download={name}
            >
              {label}
            </Menu.Item>
          ))}
        </Menu.Dropdown>
      </Menu>
      <p className="quiet small" role="status">
        {said || 'CSV, WebVTT, edit decision list or OpenTimelineIO'}
      </p>
    </div>
  );
}
