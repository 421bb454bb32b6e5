import { ActionIcon, Tooltip } from '@mantine/core';
import { IconHeadphones, IconPlayerStopFilled } from '@tabler/icons-react';
import { useEffect } from 'react';
import { create } from 'zustand';
import { useTools } from '../tools/context';

/** The one medium that is listened to by itself. */
const useListening = create<{ media: string | undefined }>()(() => ({ media: undefined }));
let sound: HTMLAudioElement | undefined;

function stop() {
  sound?.pause();
  sound = undefined;
  useListening.setState({ media: undefined });
}

/** Hear a medium by itself, before it is laid anywhere. */
export function Listen({ media, name }: { media: string; name: string }) {
  const { player } = useTools();
  const on = useListening((s) => s.media === media);
  useEffect(
    () => () => {
      if (useListening.getState().media === media) stop();
    },
    [media],
  );
  const listen = () => {
    stop();
    if (on) return;
    player.pause();
    sound = new Audio(`/api/media/${media}/sound.wav`);
    sound.onended = stop;
    useListening.setState({ media });
    void sound.play().catch(stop);
  };
  const label = on ? `Stop listening to ${name}` : `Listen to ${name}`;
  return (
    <Tooltip label={on ? 'Stop' : 'Listen to it by itself'}>
      <ActionIcon
        size={24}
        variant="subtle"
        color="gray"
        aria-label={label}
        aria-pressed={on}
        onClick={listen}
      >
        {on ? <IconPlayerStopFilled size={14} /> : <IconHeadphones size={15} />}
      </ActionIcon>
    </Tooltip>
  );
}
