import { ActionIcon, Button, CloseButton, Menu, Popover, SegmentedControl } from '@mantine/core';
import { IconChevronDown } from '@tabler/icons-react';
import type { Against } from '../../player/against';
import type { Heard } from '../../player/messages';
import { PARTS } from '../../player/monitor';
import { usePlayer } from '../../player/player';
import { useSession } from '../../reel/session';
import { useSelection } from '../selected/selection';
import { useTools } from '../tools/context';
import { answer, begin, byChance, end, forget, hear, useBlind, type Letter } from './blind';
import { choicesOf, partsOf } from './choices';
import { hearOnly, isOnly, turnOnly, useOnly } from './onlyTracks';
import { dbText, useMatching } from './matching';
import { PartPill } from './PartPill';
import { TryBar } from './TryBar';

/** The reel against another state of it, equally loud, flipped while playing. */
export function Compare() {
  const running = useBlind((s) => s.running);
  return running ? <BlindBar /> : <Sides />;
}

function Sides() {
  const { player } = useTools();
  const side = usePlayer((s) => s.side);
  const against = usePlayer((s) => s.against);
  const told = useBlind((s) => s.told);
  const want = useMatching((s) => s.want);
  return (
    <div className="compare" onPointerEnter={want}>
      <div className="heard-notes">
        <TryBar />
        <PartPill />
        {side === 'difference' && <span className="pill marked">Only the difference is heard</span>}
        {against.plain && side === 'other' && (
          <span className="pill marked">
            {against.label} is heard
            <CloseButton
              size="sm"
              aria-label="Hear all"
              onClick={() => player.setSide('treated')}
            />
          </span>
        )}
      </div>
      <Popover opened={told !== undefined} onDismiss={forget} position="top-end" withArrow>
        <Popover.Target>
          <SegmentedControl
            className="sides"
            size="xs"
            radius="xl"
            aria-label="Which sound is heard"
            value={side === 'difference' ? '' : side}
            onChange={(value) => player.setSide(value as Heard)}
            data={[
              { value: 'other', label: <Other label={against.label} /> },
              { value: 'treated', label: against.of === 'all' ? 'Treated' : 'As it is' },
            ]}
          />
        </Popover.Target>
        <Popover.Dropdown>
          <Told />
        </Popover.Dropdown>
      </Popover>
      <Choices />
    </div>
  );
}

/** The other side with what is added to its level, roughly until all in view is measured. */
function Other({ label }: { label: string }) {
  const match = usePlayer((s) => s.match);
  const on = useMatching((s) => s.on);
  const wanted = useMatching((s) => s.wanted);
  const rough = useMatching((s) => s.share < 1);
  return (
    <span className="other-side" aria-busy={on && wanted ? rough : undefined}>
      <span className="cut" title={label}>
        {label}
      </span>
      {on && Math.abs(match) >= 0.05 && (
        <span className="small">
          {rough && '≈ '}
          {dbText(match)}
        </span>
      )}
    </span>
  );
}

function Choices() {
  const { player, effects } = useTools();
  const side = usePlayer((s) => s.side);
  const against = usePlayer((s) => s.against);
  const part = usePlayer((s) => s.part);
  const { on, turn, share, wanted } = useMatching();
  const choose = (next: Against) => {
    player.setAgainst(next);
    player.setSide('other');
  };
  return (
    <Menu position="top-end" width={270}>
      <Menu.Target>
        <ActionIcon variant="subtle" color="gray" aria-label="What to compare with">
          <IconChevronDown size={16} />
        </ActionIcon>
      </Menu.Target>
      <Menu.Dropdown>
        <Menu.Label>Compare with</Menu.Label>
        <ChoiceItems chosen={against.of} effects={effects} choose={choose} />
        <Menu.Divider />
        <Menu.Item onClick={() => turn(!on)} rightSection={on ? '✓' : ''}>
          Match the loudness{wanted && on && share < 1 ? ` (${Math.round(100 * share)} %)` : ''}
        </Menu.Item>
        <Menu.Item
          rightSection={side === 'difference' ? '✓' : ''}
          onClick={() => player.setSide(side === 'difference' ? 'treated' : 'difference')}
        >
          Hear only the difference
        </Menu.Item>
        <Menu.Item onClick={() => begin(player)}>Compare blind</Menu.Item>
        <Menu.Divider />
        <Menu.Label>Listen to a part</Menu.Label>
        <PartItems choose={choose} effects={effects} />
        <Menu.Sub>
          <Menu.Sub.Target>
            <Menu.Sub.Item>Only some tracks</Menu.Sub.Item>
          </Menu.Sub.Target>
          <Menu.Sub.Dropdown>
            <TrackItems />
          </Menu.Sub.Dropdown>
        </Menu.Sub>
        <Menu.Sub>
          <Menu.Sub.Target>
            <Menu.Sub.Item>Sides and bands</Menu.Sub.Item>
          </Menu.Sub.Target>
          <Menu.Sub.Dropdown>
            {PARTS.map(({ part: one, label }) => (
              <Menu.Item
                key={one}
                rightSection={one === part ? '✓' : ''}
                onClick={() => player.setPart(one)}
              >
                {label}
              </Menu.Item>
            ))}
          </Menu.Sub.Dropdown>
        </Menu.Sub>
      </Menu.Dropdown>
    </Menu>
  );
}

interface ItemsProps {
  chosen: string;
  effects: Parameters<typeof choicesOf>[3];
  choose: (against: Against) => void;
}

/** Looked up when the menu is opened, not with every edit. */
function ChoiceItems({ chosen, effects, choose }: ItemsProps) {
  const reel = useSession((s) => s.document);
  const { selection, openEffect } = useSelection();
  if (!reel) return null;
  return choicesOf(reel, selection, openEffect, effects).map((choice) => (
    <Menu.Item
      key={choice.of}
      rightSection={choice.of === chosen ? '✓' : ''}
      onClick={() => choose(choice)}
    >
      {choice.label}
    </Menu.Item>
  ));
}

/** Parts of the reel that can be heard alone. */
function PartItems({ choose, effects }: Omit<ItemsProps, 'chosen'>) {
  const reel = useSession((s) => s.document);
  const { selection, openEffect } = useSelection();
  if (!reel) return null;
  return partsOf(reel, selection, openEffect, effects).map((choice) => (
    <Menu.Item key={choice.of} onClick={() => choose(choice)}>
      {choice.label}
    </Menu.Item>
  ));
}

/** Any of the tracks, together. */
function TrackItems() {
  const { player } = useTools();
  const tracks = useSession((s) => s.document?.tracks);
  const on = usePlayer((s) => s.side === 'other' && isOnly(s.against));
  const only = useOnly((s) => s.tracks);
  return (
    <>
      {(tracks ?? []).map(({ id, name }) => (
        <Menu.Item
          key={id}
          closeMenuOnClick={false}
          rightSection={on && only.includes(id) ? '✓' : ''}
          onClick={() => turnOnly(player, id)}
        >
          {name || id}
        </Menu.Item>
      ))}
      {!on && only.length > 0 && (
        <Menu.Item onClick={() => hearOnly(player, only)}>The same as before</Menu.Item>
      )}
    </>
  );
}

/** Which side is which is not said. */
function BlindBar() {
  const { player } = useTools();
  const heard = useBlind((s) => s.heard);
  const count = useBlind((s) => s.count.treated + s.count.other + s.count.alike);
  return (
    <div className="compare" role="group" aria-label="Blind comparison">
      <SegmentedControl
        className="sides"
        size="xs"
        radius="xl"
        aria-label="Which sound is heard"
        value={heard}
        onChange={(value) => hear(player, value as Letter)}
        data={['A', 'B']}
      />
      {(['A', 'alike', 'B'] as const).map((given) => (
        <Button
          key={given}
          size="compact-xs"
          variant="default"
          onClick={() => answer(player, given)}
        >
          {given === 'alike' ? 'No difference' : `${given} is better`}
        </Button>
      ))}
      <Button size="compact-xs" variant="subtle" onClick={() => end(player)}>
        End ({count})
      </Button>
    </div>
  );
}

function Told() {
  const told = useBlind((s) => s.told);
  const against = usePlayer((s) => s.against);
  if (!told) return null;
  const n = told.treated + told.other;
  const chance = byChance(told);
  return (
    <div className="told" role="status">
      <p>
        {against.of === 'all' ? 'Treated' : 'As it is'}: {told.treated} of {n}. {against.label}:{' '}
        {told.other} of {n}.{told.alike > 0 && ` No difference: ${told.alike}.`}
      </p>
      <p className="quiet small">
        {n < 5
          ? 'Too few answers to tell.'
          : chance < 0.05
            ? 'That is hardly chance.'
            : `Guessing does as well in ${Math.round(100 * chance)} % of cases.`}
      </p>
      <Button size="compact-xs" variant="default" onClick={forget}>
        Close
      </Button>
    </div>
  );
}
