import { Button, Group, Modal, Progress, SegmentedControl, Stack, TextInput } from '@mantine/core';
import { IconDownload } from '@tabler/icons-react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { client, unwrap, type ExportLine } from '../api/client';
import { useSession } from '../reel/session';
import { CutTails } from './listening/CutTails';
import { Foreseen } from './listening/Foreseen';
import { usePlayer } from '../player/player';
import { useSelection } from './selected/selection';
import { timeOrDay } from '../ui/when';
import { useTools } from './tools/context';

type Bits = '16' | '24' | '32f';

const STATES: Record<string, string> = {
  queued: 'Waiting for its turn',
  running: 'Rendering',
  done: 'Ready',
  failed: 'Failed',
  cancelled: 'Cancelled',
};

/** Render the mix to a file, as a job. */
export function ExportDialog({ opened, onClose }: { opened: boolean; onClose: () => void }) {
  const { reel } = useTools();
  const queries = useQueryClient();
  const missing = useSession((s) => s.derived?.missing_media.length ?? 0);
  const [bits, setBits] = useState<Bits>('24');
  const [side, setSide] = useState('treated');
  const [name, setName] = useState('');
  const ranges = useRanges();
  const [what, setWhat] = useState('all');
  const [longer, setLonger] = useState(0);
  const chosen = ranges.find((r) => r.value === what);
  const range = chosen && { start: chosen.start, stop: Math.max(chosen.stop, longer) };
  const path = { params: { path: { id: reel } } };
  const exports = useQuery({
    queryKey: ['exports', reel],
    queryFn: () => unwrap(client.GET('/api/reels/{id}/exports', path)),
    enabled: opened,
    refetchInterval: (query) =>
      query.state.data?.some((e) => e.state === 'queued' || e.state === 'running') ? 1000 : false,
  });
  const refresh = () => queries.invalidateQueries({ queryKey: ['exports'] });
  const start = useMutation({
    mutationFn: () =>
      unwrap(
        client.POST('/api/reels/{id}/exports', {
          ...path,
          body: { bits, treated: side === 'treated', name, start: 0, ...range },
        }),
      ),
    onSettled: refresh,
  });
  return (
    <Modal opened={opened} onClose={onClose} title="Export the mix as WAV" size="lg">
      <Stack>
        <Group justify="space-between">
          <SegmentedControl
            aria-label="Bit depth"
            value={bits}
            onChange={(v) => setBits(v as Bits)}
            data={[
              { value: '16', label: '16 bit' },
              { value: '24', label: '24 bit' },
              { value: '32f', label: '32 bit float' },
            ]}
          />
          <SegmentedControl
            aria-label="Side"
            value={side}
            onChange={setSide}
            data={[
              { value: 'treated', label: 'Treated' },
              { value: 'untreated', label: 'Untreated' },
            ]}
          />
          <Button onClick={() => start.mutate()} loading={start.isPending}>
            Render
          </Button>
        </Group>
        {ranges.length > 0 && (
          <SegmentedControl
            aria-label="What is exported"
            value={chosen ? what : 'all'}
            onChange={(next) => {
              setWhat(next);
              setLonger(0);
            }}
            data={[{ value: 'all', label: 'The whole reel' }, ...ranges]}
          />
        )}
        <TextInput
          label="Name of the file"
          placeholder="As the reel is called, with a number if there is one already"
          value={name}
          maxLength={120}
          onChange={(e) => setName(e.currentTarget.value)}
        />
        {side === 'treated' && <Foreseen bits={bits} range={range} />}
        {side === 'treated' && range && <CutTails at={range.stop} extend={setLonger} />}
        {start.error && (
          <p className="trouble" role="alert">
            {start.error.message}
          </p>
        )}
        {missing > 0 && (
          <p className="trouble">
            {missing === 1 ? 'One file is' : `${missing} files are`} missing or damaged: the export
            is silent where {missing === 1 ? 'it' : 'they'} should play. “Media &amp; sounds” shows
            which.
          </p>
        )}
        {exports.data?.length === 0 && (
          <p className="quiet">Nothing has been exported from this reel yet.</p>
        )}
        {exports.data?.map((line) => (
          <Line key={line.id} line={line} refresh={() => void refresh()} />
        ))}
      </Stack>
    </Modal>
  );
}

/** Stretches that can be exported alone: the range that is selected, and the loop. */
function useRanges() {
  const { clock } = useTools();
  const selection = useSelection((s) => s.selection);
  const loop = usePlayer((s) => s.loop);
  const stretch = (value: string, name: string, start: number, stop: number) => ({
    value,
    label: `${name}, ${clock.timecode(start)} – ${clock.timecode(stop)}`,
    start,
    stop,
  });
  return [
    ...(selection.kind === 'range'
      ? [stretch('range', 'Range', Math.max(0, selection.start), selection.end)]
      : []),
    ...(loop ? [stretch('loop', 'Loop', Math.max(0, loop.start), loop.end)] : []),
  ];
}

function Line({ line, refresh }: { line: ExportLine; refresh: () => void }) {
  const open = line.state === 'queued' || line.state === 'running';
  const cancel = useMutation({
    mutationFn: () =>
      unwrap(client.POST('/api/exports/{id}/cancel', { params: { path: { id: line.id } } })),
    onSettled: refresh,
  });
  const depth = line.bits === '32f' ? '32 bit float' : `${line.bits} bit`;
  return (
    <div className="export-line" data-state={line.state}>
      <div className="grow">
        <div>
          {line.name} <span className="quiet">{depth}</span>
        </div>
        <div className="quiet small" role="status">
          {STATES[line.state]}
          {line.state === 'running' && ` · ${Math.round(line.progress * 100)} %`}
          {line.error && `: ${line.error}`} · {timeOrDay(line.asked)}
        </div>
        {open && <Progress value={line.progress * 100} size="sm" aria-label="Rendered" />}
      </div>
      {open && (
        <Button size="xs" variant="default" onClick={() => cancel.mutate()}>
          Cancel
        </Button>
      )}
      {line.state === 'done' && (
        <Button
          size="xs"
          component="a"
          href={`/api/exports/${line.id}/file`}
          download={line.name}
          leftSection={<IconDownload size={16} />}
        >
          Save
        </Button>
      )}
    </div>
  );
}
