import { ActionIcon, Button } from '@mantine/core';
import { IconExternalLink, IconMaximize } from '@tabler/icons-react';
import { useEffect, useRef } from 'react';
import { createPortal } from 'react-dom';
import { PictureFollower, type PictureTarget } from '../../player/picture';
import { usePlayer } from '../../player/player';
import { useTools } from '../tools/context';
import type { PictureClip } from '../../reel/document';
import { useReel } from '../../reel/useReel';
import { useAway } from './away';

const NO_CUTS: number[] = [];

function clipAt(clips: PictureClip[] | undefined, position: number): PictureClip | undefined {
  return (
    clips?.find((c) => position >= c.start && position < c.start + c.length) ??
    clips?.findLast((c) => position >= c.start)
  );
}

/** Where the playhead is, and how far the next cut. */
function Here({ cuts }: { cuts: number[] }) {
  const { clock } = useTools();
  const here = usePlayer((s) => clock.frameOfSample(s.position));
  const next = cuts.find((c) => c > here);
  return (
    <>
      <span className="picture-timecode number">{clock.timecodeOfFrame(here)}</span>
      {next !== undefined && (
        <span className="picture-next">
          cut in {Math.floor((next - here) / clock.nominal)} s {(next - here) % clock.nominal} f
        </span>
      )}
    </>
  );
}

/** The picture: in the column, or in a window of its own, on another screen perhaps. */
export function PictureView() {
  const { away, open, bringBack } = useAway();
  if (!away) return <Screen apart={open} />;
  return (
    <>
      <div className="picture-away">
        <span className="quiet">The picture has a window of its own.</span>
        <Button size="compact-xs" variant="default" onClick={bringBack}>
          Bring it back
        </Button>
      </div>
      {createPortal(<Screen />, away.document.body)}
    </>
  );
}

interface ScreenProps {
  /** Gives it a window of its own. */
  apart?: () => void;
}

/** The picture with its timecode; it follows what is heard. */
function Screen({ apart }: ScreenProps) {
  const { clock, player, media } = useTools();
  const picture = useReel((d) => d.picture);
  const frame = useRef<HTMLDivElement>(null);
  const video = useRef<HTMLVideoElement>(null);
  const playing = usePlayer((s) => s.playing && !s.starving);
  const jumps = usePlayer((s) => s.jumps);
  const starving = usePlayer((s) => s.starving);
  const standing = usePlayer((s) => (s.playing ? -1 : s.position));
  const clips = picture?.clips;
  const clip = usePlayer((s) => clipAt(clips, s.position));
  const line = clip ? media.get(clip.media) : undefined;
  const source = line?.state === 'ready' ? `/api/media/${line.id}/proxy.mp4` : undefined;

  const target = useRef<PictureTarget>({ offset: 0, clock });
  useEffect(() => {
    const offset = clip ? ((clip.source_start ?? 0) - clip.start) / clock.sampleRate : 0;
    target.current = { offset, clock };
  }, [clip, clock]);

  const follower = useRef<PictureFollower>(undefined);
  useEffect(() => {
    if (!video.current || !source) return;
    follower.current = new PictureFollower(
      video.current,
      () => target.current,
      () => ({
        sample: player.heard(),
        running: usePlayer.getState().playing && !usePlayer.getState().starving,
        speed: usePlayer.getState().speed,
      }),
    );
    const now = usePlayer.getState();
    if (!now.playing) follower.current.show(now.position);
    return () => follower.current?.close();
  }, [source, player]);

  useEffect(() => {
    if (playing) follower.current?.run(player.heard());
  }, [playing, jumps, player]);
  useEffect(() => {
    if (!playing) follower.current?.show(usePlayer.getState().position);
  }, [playing, standing, source]);

  const shown = () => {
    // A seek before there was anything to show is done again.
    const now = usePlayer.getState();
    if (!now.playing) follower.current?.show(now.position);
  };

  return (
    <div className="picture" ref={frame}>
      {source ? (
        <video
          ref={video}
          src={source}
          muted
          playsInline
          preload="auto"
          aria-label="Picture"
          onLoadedData={shown}
        />
      ) : (
        <p className="no-picture">
          {!clips?.length
            ? 'This reel has no picture.'
            : line?.state === 'failed'
              ? line.error
              : line?.state === 'cancelled'
                ? 'The picture is not ready: start it again under Media & sounds.'
                : `The picture is being prepared… ${Math.round((line?.progress ?? 0) * 100)} %`}
        </p>
      )}
      <Here cuts={picture?.cuts ?? NO_CUTS} />
      {starving && <span className="picture-wait">Waiting for sound…</span>}
      <div className="picture-full">
        {apart && (
          <ActionIcon
            variant="transparent"
            aria-label="Picture in a window of its own"
            title="In a window of its own"
            onClick={apart}
          >
            <IconExternalLink size={18} />
          </ActionIcon>
        )}
        <ActionIcon
          variant="transparent"
          aria-label="Full-screen picture"
          title="Full screen"
          onClick={() => {
            const own = frame.current?.ownerDocument;
            if (own?.fullscreenElement) void own.exitFullscreen();
            else void frame.current?.requestFullscreen();
          }}
        >
          <IconMaximize size={18} />
        </ActionIcon>
      </div>
    </div>
  );
}
