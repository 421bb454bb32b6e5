import { Button, FileButton } from '@mantine/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { forgetUpload, unfinishedUploads } from '../../api/uploads';
import { useTools } from '../tools/context';
import { bringInFiles, useImports } from './imports';

/** Uploads that a lost connection, a reload or a crash has left half done. */
export function Unfinished() {
  const { clock } = useTools();
  const queries = useQueryClient();
  const coming = useImports((s) => s.files);
  const { data } = useQuery({
    // Asked again whenever one begins or ends here.
    queryKey: ['uploads', coming.length],
    queryFn: unfinishedUploads,
    placeholderData: (before) => before,
  });
  const left = (data ?? []).filter((u) => !coming.some((file) => file.name === u.name));
  if (left.length === 0) return null;
  return (
    <section aria-label="Unfinished uploads">
      <p className="quiet small">Not finished; choose the same file to go on where it stopped:</p>
      {left.map((upload) => (
        <div key={upload.id} className="shelf-step">
          <span className="media-name" title={upload.name}>
            {upload.name}
          </span>
          <span className="quiet small number">
            {Math.floor((100 * upload.offset) / upload.size)} % of{' '}
            {Math.max(1, Math.round(upload.size / 2 ** 20))} MB
          </span>
          <span className="line-tools">
            <FileButton
              onChange={(file) => {
                if (file)
                  bringInFiles([file], clock, () =>
                    queries.invalidateQueries({ queryKey: ['media'] }),
                  );
              }}
            >
              {(props) => (
                <Button {...props} size="compact-xs" variant="subtle">
                  Choose the file…
                </Button>
              )}
            </FileButton>
            <Button
              size="compact-xs"
              variant="subtle"
              onClick={() =>
                void forgetUpload(upload.id).then(() =>
                  queries.invalidateQueries({ queryKey: ['uploads'] }),
                )
              }
            >
              Give up
            </Button>
          </span>
        </div>
      ))}
    </section>
  );
}
