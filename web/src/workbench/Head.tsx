import { Button, Menu, Tooltip } from '@mantine/core';
import {
  IconArrowBackUp,
  IconArrowForwardUp,
  IconKeyboard,
  IconRoute,
  IconSearch,
} from '@tabler/icons-react';
import { memo } from 'react';
import { Link } from 'react-router';
import { usePlayer } from '../player/player';
import { useSession } from '../reel/session';
import { useReel } from '../reel/useReel';
import { AccountMenu } from '../ui/AccountMenu';
import { Brand } from '../ui/Brand';
import { useAsked } from './tools/asked';
import { useTools } from './tools/context';
import { ExportDialog } from './ExportDialog';
import { KeysDialog } from './commands/KeysDialog';
import { openGuide } from './guide/progress';
import { OutputMenu } from './transport/OutputMenu';

const SAVE_TEXT = {
  saved: 'All saved',
  saving: 'Saving…',
  offline: 'Not saved yet: offline',
  'signed-out': 'Not saved yet: signed out',
};

/** Name, saved state, output, undo and redo, export. */
export function Head() {
  const { clock, player, reel } = useTools();
  const name = useReel((d) => d.name);
  const drop = useReel((d) => d.drop_frame);
  const samples = useReel((d) => d.sample_rate);
  const mute = usePlayer((s) => s.mute);
  const signIn = `/sign-in?kept=1&to=${encodeURIComponent(`/reels/${reel}`)}`;
  const undo = useSession((s) => s.undo);
  const redo = useSession((s) => s.redo);
  // What a hand has not let go of is not saved either.
  const held = useSession((s) => Boolean(s.draft?.commands.length));
  const sent = useSession((s) => s.save);
  const save = held && sent === 'saved' ? 'saving' : sent;
  const { undoLast, redoLast } = useSession.getState();
  const trouble = usePlayer((s) => s.trouble);
  const ask = useAsked((s) => s.ask);
  const rate = Math.round(clock.framesPerSecond * 1000) / 1000;
  return (
    <header className="head">
      <Brand />
      <span className="name reel-name" title={name}>
        {name}
      </span>
      <span className="quiet facts">
        {rate} fps{drop ? ' drop' : ''} · {samples / 1000} kHz
      </span>
      <span className="grow" />
      {mute && (
        <span className="pill bad" role="alert">
          <span title={mute}>{mute}</span>
          <Button
            size="compact-xs"
            variant="default"
            ml={8}
            onClick={() => (player.supplied ? void player.play() : window.location.reload())}
          >
            {player.supplied ? 'Start the sound' : 'Reload'}
          </Button>
        </span>
      )}
      {trouble && (
        <span className="pill bad" role="alert">
          {trouble}
        </span>
      )}
      <span className={`pill ${save}`} role="status">
        {SAVE_TEXT[save]}
        {save === 'signed-out' && (
          <Button component={Link} size="compact-xs" variant="default" ml={8} to={signIn}>
            Sign in
          </Button>
        )}
      </span>
      <OutputMenu />
      <Tooltip label={undo ? `Undo: ${undo.title}` : 'Nothing to undo'}>
        <Button
          variant="default"
          size="xs"
          leftSection={<IconArrowBackUp size={16} />}
          aria-disabled={!undo}
          data-disabled={!undo}
          onClick={() => undo && void undoLast()}
          aria-label={undo ? `Undo: ${undo.title}` : 'Undo'}
        >
          Undo
        </Button>
      </Tooltip>
      <Tooltip label={redo ? `Redo: ${redo.title}` : 'Nothing to redo'}>
        <Button
          variant="default"
          size="xs"
          px={8}
          aria-disabled={!redo}
          data-disabled={!redo}
          onClick={() => redo && void redoLast()}
          aria-label={redo ? `Redo: ${redo.title}` : 'Redo'}
        >
          <IconArrowForwardUp size={16} />
        </Button>
      </Tooltip>
      <Button className="solid" size="xs" onClick={() => ask('export')}>
        Export…
      </Button>
      <AccountMenu>
        <Menu.Item leftSection={<IconKeyboard size={16} />} onClick={() => ask('keys')}>
          Keys
        </Menu.Item>
        <Menu.Item leftSection={<IconRoute size={16} />} onClick={openGuide}>
          First steps
        </Menu.Item>
        <Menu.Item leftSection={<IconSearch size={16} />} onClick={() => ask('search')}>
          Search commands
        </Menu.Item>
      </AccountMenu>
      <Dialogs />
    </header>
  );
}

/** Not drawn anew with what the head says of saving and undoing. */
const Dialogs = memo(function Dialogs() {
  const { asked, ask } = useAsked();
  return (
    <>
      <ExportDialog opened={asked?.what === 'export'} onClose={() => ask(undefined)} />
      <KeysDialog opened={asked?.what === 'keys'} onClose={() => ask(undefined)} />
    </>
  );
});
