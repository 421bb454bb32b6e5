import { Button, FileButton, Progress } from '@mantine/core';
import { useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { useTools } from '../tools/context';
import { bringInFiles, cancel, pause, useImports } from './imports';
import { MediumCard } from './MediumCard';
import { Unfinished } from './Unfinished';
import { useReel } from '../../reel/useReel';

const SEARCH_FROM = 4;

/** The reel's media, and bringing in more. */
export function ReelMedia() {
  const { media, clock } = useTools();
  const list = useReel((d) => d.media);
  const queries = useQueryClient();
  const files = useImports((s) => s.files);
  const [search, setSearch] = useState('');
  const again = useRef<() => void>(null);
  const refresh = () => queries.invalidateQueries({ queryKey: ['media'] });
  const all = list ?? [];
  const wanted = search.trim().toLowerCase();
  const shown = all.filter((m) => m.path.toLowerCase().includes(wanted));
  return (
    <>
      <div className="shelf-head">
        <FileButton
          multiple
          resetRef={again}
          onChange={(chosen) => {
            again.current?.();
            bringInFiles(chosen, clock, refresh);
          }}
        >
          {(props) => (
            <Button {...props} size="xs" variant="default">
              Import files…
            </Button>
          )}
        </FileButton>
        {all.length >= SEARCH_FROM && (
          <input
            className="go-to"
            type="search"
            aria-label="Search media"
            placeholder="Search"
            value={search}
            onChange={(e) => setSearch(e.currentTarget.value)}
          />
        )}
      </div>
      <p className="quiet small">Or drop files anywhere on this window.</p>
      {files.map((file) => (
        <div key={file.key} role="status" className="shelf-step">
          <span className="media-name" title={file.name}>
            {file.name}
          </span>
          {file.trouble ? (
            <span className="bad-text">{file.trouble}</span>
          ) : (
            <>
              <span className="quiet small">{file.text}</span>
              <Progress value={file.share * 100} aria-label={`Progress of ${file.name}`} />
            </>
          )}
          <span className="line-tools">
            {!file.trouble && file.text.startsWith('Prep') === false && (
              <Button
                size="compact-xs"
                variant="subtle"
                onClick={() => pause(file.key, !file.paused)}
              >
                {file.paused ? 'Go on' : 'Pause'}
              </Button>
            )}
            <Button size="compact-xs" variant="subtle" onClick={() => cancel(file.key)}>
              {file.trouble ? 'Dismiss' : 'Cancel'}
            </Button>
          </span>
        </div>
      ))}
      <Unfinished />
      {all.length === 0 && files.length === 0 && (
        <p className="quiet">
          This reel has no media yet. A film, its sounds, music: drop them here.
        </p>
      )}
      <ul>
        {shown.map((medium) => (
          <MediumCard key={medium.id} medium={medium} line={media.get(medium.id)} />
        ))}
      </ul>
      {wanted && shown.length === 0 && <p className="quiet">Nothing is called that.</p>}
    </>
  );
}
