import { Button, CloseButton, Menu } from '@mantine/core';
import { useSession } from '../../reel/session';
import { useShallow } from 'zustand/react/shallow';
import { findChain } from '../../reel/document';

/** Settings of a chain that are kept side by side; the chosen ones play and are exported. */
export function KeptSettings({ owner }: { owner: string }) {
  const { edit } = useSession.getState();
  const chosen = useSession((s) => chainOf(s.document, owner)?.chosen ?? '');
  const names = useSession(useShallow((s) => namesOf(s.document, owner)));
  if (names.length === 0) return null;
  return (
    <div className="kept" role="group" aria-label="Kept settings">
      <span className="small quiet">Settings</span>
      {names.map((name) => (
        <span key={name} className="kept-one">
          <Button
            size="compact-xs"
            variant={name === chosen ? 'filled' : 'default'}
            aria-pressed={name === chosen}
            title={name === chosen ? 'These play and are exported' : `Use settings ${name}`}
            onClick={() => void edit({ kind: 'use_kept', owner, name })}
          >
            {name}
          </Button>
          {name !== chosen && (
            <CloseButton
              size="sm"
              aria-label={`Remove settings ${name}`}
              onClick={() => void edit({ kind: 'drop_kept', owner, name })}
            />
          )}
        </span>
      ))}
      <Button
        size="compact-xs"
        variant="subtle"
        onClick={() => keepSettings(owner)}
        title="Keep these, and go on with a copy"
      >
        + Another
      </Button>
    </div>
  );
}

/** In the menu of a chain. */
export function KeepItem({ owner }: { owner: string }) {
  return (
    <Menu.Item onClick={() => keepSettings(owner)}>Keep these settings beside others</Menu.Item>
  );
}

/** What plays is kept, and a copy of it goes on under the next letter. */
function keepSettings(owner: string) {
  const { document, edit } = useSession.getState();
  const names = namesOf(document, owner);
  const letters = LETTERS.filter((letter) => !names.includes(letter));
  const [name, then] = names.length > 0 ? ['A', letters[0]] : letters;
  if (name && then) void edit({ kind: 'keep_settings', owner, name, then });
}

const LETTERS = Array.from({ length: 26 }, (_, k) => String.fromCharCode(65 + k));

type Reel = ReturnType<typeof useSession.getState>['document'];

function chainOf(reel: Reel, owner: string) {
  return reel && findChain(reel, owner)?.chain;
}

function namesOf(reel: Reel, owner: string): string[] {
  const chain = chainOf(reel, owner);
  const names = new Set((chain?.kept ?? []).map((k) => k.name));
  if (chain?.chosen) names.add(chain.chosen);
  return [...names].sort();
}
