import { Button, FileButton } from '@mantine/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useDeferredValue, useEffect, useRef, useState } from 'react';
import { client, unwrap } from '../../api/client';
import { useSession } from '../../reel/session';
import { PresetLine } from './PresetLine';
import { PRESETS } from '../sounds/keeping';
import { handOut, presetsFound } from './presets';
import { openPreset, useShown } from './walking';

/** One's own presets: found, tried, used, named, and handed on as a file. */
export function PresetBrowser() {
  const [text, setText] = useState('');
  const open = useShown((s) => s.open);
  const asked = useDeferredValue(text.trim());
  const { data } = useQuery(presetsFound(asked));
  useEffect(() => useShown.setState({ presets: data ?? [] }), [data]);
  useEffect(() => () => useShown.setState({ presets: [], open: undefined }), []);
  const queries = useQueryClient();
  const tell = useSession((s) => s.tell);
  const again = useRef<() => void>(null);
  const bringIn = async (file: File | null) => {
    again.current?.();
    if (!file) return;
    try {
      const body = JSON.parse(await file.text()) as Record<string, unknown>;
      const { presets, notes } = await unwrap(client.POST('/api/presets/brought-in', { body }));
      await queries.invalidateQueries({ queryKey: [PRESETS] });
      tell(`${presets.length} ${presets.length === 1 ? 'preset' : 'presets'} imported.`);
      notes.forEach(tell);
    } catch (error) {
      tell(
        error instanceof SyntaxError
          ? `“${file.name}” is no file of presets.`
          : (error as Error).message,
      );
    }
  };
  const all = async () =>
    handOut('Presets', await unwrap(client.POST('/api/presets/file', { body: { ids: [] } })));
  if (!data) return <p className="quiet">Loading…</p>;
  return (
    <div className="sounds">
      <div className="shelf-head">
        <input
          className="go-to"
          type="search"
          aria-label="Search presets"
          placeholder="by name, tag or effect"
          value={text}
          onChange={(e) => setText(e.currentTarget.value)}
        />
      </div>
      {data.length === 0 && !asked && (
        <p className="quiet">
          None yet. Save one from the menu of any treatment, clip, track or effect.
        </p>
      )}
      {data.length === 0 && asked && <p className="quiet">No preset matches “{asked}”.</p>}
      <ul>
        {data.map((preset) => (
          <PresetLine
            key={preset.id}
            preset={preset}
            open={open === preset.id}
            toggle={() => openPreset(open === preset.id ? undefined : preset.id)}
          />
        ))}
      </ul>
      <span className="sound-tools">
        <FileButton
          resetRef={again}
          accept="application/json,.json"
          onChange={(file) => void bringIn(file)}
        >
          {(props) => (
            <Button {...props} size="compact-sm" variant="default">
              Import presets…
            </Button>
          )}
        </FileButton>
        {data.length > 0 && (
          <Button size="compact-sm" variant="default" onClick={() => void all()}>
            Export all
          </Button>
        )}
      </span>
    </div>
  );
}
