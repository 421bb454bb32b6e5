import { ActionIcon, Button, Tooltip } from '@mantine/core';
import { IconStar, IconStarFilled } from '@tabler/icons-react';
import { client, unwrap } from '../../api/client';
import { useSession } from '../../reel/session';
import { TypedField } from '../fields/TypedField';
import { attempt, listOf, useChange, useRefresh } from './changing';
import { handOut, type Preset } from './presets';

/** The star of a preset or recipe; what colleagues share has none. */
export function Favourite({ preset }: { preset: Preset }) {
  const change = useChange(preset);
  if (preset.by) return null;
  return (
    <Tooltip label={preset.favourite ? 'Remove from favourites' : 'Add to favourites'}>
      <ActionIcon
        size={24}
        variant="subtle"
        color="gray"
        aria-label={`Favourite: ${preset.name}`}
        aria-pressed={preset.favourite}
        onClick={() => change({ favourite: !preset.favourite })}
      >
        {preset.favourite ? <IconStarFilled size={14} /> : <IconStar size={14} />}
      </ActionIcon>
    </Tooltip>
  );
}

/** Its name, note and tags, to be changed where it is one's own. */
export function KeptWords({ preset }: { preset: Preset }) {
  const change = useChange(preset);
  if (preset.by) return preset.note ? <p className="small">{preset.note}</p> : null;
  return (
    <>
      <Words label="Name" value={preset.name} keep={(name) => name && change({ name })} />
      <Words label="Note" value={preset.note} keep={(note) => change({ note })} />
      <Words
        label="Tags"
        value={preset.tags.join(', ')}
        keep={(text) => change({ tags: listOf(text) })}
      />
    </>
  );
}

/** Handing it on, sharing it and taking it away; of a colleague's one keeps a copy. */
export function KeptTools({ preset }: { preset: Preset }) {
  const refresh = useRefresh();
  const { id: reel, tell } = useSession.getState();
  const path = { params: { path: { id: preset.id } } };
  const shared = preset.shared.includes(reel);
  const giveOut = () =>
    attempt(async () => {
      const body = { ids: [preset.id] };
      handOut(preset.name, await unwrap(client.POST('/api/presets/file', { body })));
    });
  const remove = () =>
    attempt(async () => {
      await unwrap(client.DELETE('/api/presets/{id}', path));
      await refresh();
    });
  const share = () =>
    attempt(async () => {
      const body = { reel, shared: !shared };
      await unwrap(client.POST('/api/presets/{id}/share', { ...path, body }));
      await refresh();
      tell(
        shared
          ? `“${preset.name}” is no longer shared on this reel.`
          : `Everyone on this reel can use “${preset.name}” now.`,
      );
    });
  const copy = () =>
    attempt(async () => {
      await unwrap(client.POST('/api/presets/{id}/copy', path));
      await refresh();
      tell(`A copy of “${preset.name}” is yours now.`);
    });
  return (
    <>
      <Button size="compact-sm" variant="subtle" onClick={giveOut}>
        Export
      </Button>
      {preset.by ? (
        <Button size="compact-sm" variant="subtle" onClick={copy}>
          Keep a copy
        </Button>
      ) : (
        <>
          <Button size="compact-sm" variant="subtle" onClick={share} aria-pressed={shared}>
            {shared ? 'Stop sharing' : 'Share on this reel'}
          </Button>
          <Button size="compact-sm" variant="subtle" color="var(--bad)" onClick={remove}>
            Remove
          </Button>
        </>
      )}
    </>
  );
}

function Words(props: { label: string; value: string; keep: (text: string) => void }) {
  const { label, value, keep } = props;
  return (
    <div className="preset-words">
      <span className="small">{label}</span>
      <TypedField
        className="text-field"
        label={label}
        shown={value}
        read={(text) => ({ value: text.trim() })}
        keep={keep}
      />
    </div>
  );
}
