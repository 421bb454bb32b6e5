import { useShallow } from 'zustand/react/shallow';
import type { ReelDocument } from '../../reel/document';
import { atOnce } from '../../hand/gesture';
import { LEVEL, PAN, SILENCE_DB } from '../keyframes/lanes';
import { Control } from '../fields/Control';
import { MaterialField } from '../listening/MaterialField';
import { useReel, without } from '../../reel/useReel';

/** Level and pan of a track, level of the mix. */
export function LevelFields({ owner, track: id }: { owner: string; track: string | undefined }) {
  const mix = useReel((d) => d.mix?.gain_db);
  const track = useReel(
    useShallow((d: ReelDocument) => {
      const found = d.tracks?.find((t) => t.id === id);
      return found && without(found, 'clips', 'treatments', 'treatment');
    }),
  );
  const set = (values: { gain_db?: number; pan?: number }) =>
    track ? { kind: 'set_track', id: track.id, ...values } : { kind: 'set_mix', ...values };
  return (
    <div className="clip-fields">
      <Control
        parameter={LEVEL}
        lowest={SILENCE_DB}
        value={(track ? track.gain_db : mix) ?? 0}
        reset={() => void atOnce(set({ gain_db: 0 }))}
        edits={(v) => [set({ gain_db: v })]}
        lane={`${owner}/gain_db`}
      />
      {track && (
        <Control
          parameter={PAN}
          value={track.pan ?? 0}
          reset={() => void atOnce(set({ pan: 0 }))}
          edits={(v) => [set({ pan: v })]}
          lane={`${owner}/pan`}
        />
      )}
      {track && <MaterialField track={track} />}
    </div>
  );
}
