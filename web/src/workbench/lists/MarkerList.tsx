import { ActionIcon, Button, Menu, Tooltip } from '@mantine/core';
import { IconTrash } from '@tabler/icons-react';
import type { Marker, MarkerKind } from '../../reel/document';
import { useSession } from '../../reel/session';
import { useTools } from '../tools/context';
import { SHAPES } from './MarkerFlag';
import { useTransport } from '../transport/transport';
import { LongList } from '../fields/LongList';
import { TextField } from '../fields/TextField';
import { useReel } from '../../reel/useReel';

const KINDS = Object.keys(SHAPES) as MarkerKind[];

export function MarkerList() {
  const all = useReel((d) => d.markers);
  const transport = useTransport();
  const markers = [...(all ?? [])].sort((a, b) => a.at - b.at);
  return (
    <>
      <div className="list-head">
        <h3>Markers</h3>
        <Tooltip label="Or press M, also while playing">
          <Button size="compact-xs" variant="default" onClick={() => transport.dropMarker()}>
            Drop a marker
          </Button>
        </Tooltip>
      </div>
      {markers.length === 0 && (
        <p className="quiet">
          No markers yet. Press M while it plays, at each moment that matters.
        </p>
      )}
      <LongList
        count={markers.length}
        line={(i) => <Line key={markers[i]!.id} marker={markers[i]!} />}
      />
    </>
  );
}

function Line({ marker }: { marker: Marker }) {
  const { clock, player } = useTools();
  const edit = useSession((s) => s.edit);
  const kind = marker.kind ?? 'note';
  const at = clock.timecode(marker.at);
  return (
    <li>
      <button type="button" className="link number" onClick={() => player.seek(marker.at)}>
        {at}
      </button>
      <Menu position="bottom-start">
        <Menu.Target>
          <ActionIcon
            variant="subtle"
            color="gray"
            aria-label={`Kind of the marker at ${at}: ${kind}`}
            title={kind}
          >
            <Shape kind={kind} />
          </ActionIcon>
        </Menu.Target>
        <Menu.Dropdown>
          {KINDS.map((k) => (
            <Menu.Item
              key={k}
              leftSection={<Shape kind={k} />}
              onClick={() =>
                k !== kind && void edit({ kind: 'set_marker', id: marker.id, marker_kind: k })
              }
            >
              {k}
            </Menu.Item>
          ))}
        </Menu.Dropdown>
      </Menu>
      <TextField
        label={`Label of the marker at ${at}`}
        value={marker.label ?? ''}
        placeholder="label"
        save={(label) => void edit({ kind: 'set_marker', id: marker.id, label })}
      />
      <ActionIcon
        variant="subtle"
        color="gray"
        aria-label={`Remove the marker at ${at}`}
        onClick={() => void edit({ kind: 'remove_marker', id: marker.id })}
      >
        <IconTrash size={16} />
      </ActionIcon>
    </li>
  );
}

function Shape({ kind }: { kind: MarkerKind }) {
  return (
    <svg className="marker-shape" data-kind={kind} width="12" height="14" aria-hidden="true">
      <path d={SHAPES[kind]} />
    </svg>
  );
}
