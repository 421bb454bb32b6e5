/** What each kind looks like, by its id in the core. */
import type { Look } from './look';
import { loudness } from './loudness';
import { pitch } from './pitch';
import { spectrum } from './spectrum';
import { stereo } from './stereo';
import { wave } from './wave';

export const LOOKS: Record<string, Look> = { wave, spectrum, loudness, stereo, pitch };
