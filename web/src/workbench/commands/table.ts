/** Every command of the workbench: its name, and the keys that it has unless one changes them. */

export interface Spec {
  id: string;
  name: string;
  group: 'Play' | 'Go' | 'Look' | 'Edit' | 'Move' | 'Keyframes' | 'Treat' | 'Reel';
  keys: string[];
}

export const COMMANDS = [
  { id: 'play', name: 'Play or pause', group: 'Play', keys: ['Space'] },
  { id: 'around-cut', name: 'Play around the nearest cut', group: 'Play', keys: ['Enter'] },
  { id: 'side', name: 'Switch between treated and untreated', group: 'Play', keys: ['T'] },
  { id: 'loop', name: 'Loop on or off', group: 'Play', keys: ['O'] },
  { id: 'speed', name: 'Play at half, normal or double speed', group: 'Play', keys: ['S'] },

  { id: 'frame-back', name: '1 frame back', group: 'Go', keys: ['ArrowLeft'] },
  { id: 'frame-on', name: '1 frame forward', group: 'Go', keys: ['ArrowRight'] },
  { id: 'five-back', name: '5 frames back', group: 'Go', keys: ['Shift+ArrowLeft'] },
  { id: 'five-on', name: '5 frames forward', group: 'Go', keys: ['Shift+ArrowRight'] },
  { id: 'cut-back', name: 'To the previous cut', group: 'Go', keys: ['ArrowUp'] },
  { id: 'cut-on', name: 'To the next cut', group: 'Go', keys: ['ArrowDown'] },
  { id: 'marker-back', name: 'To the previous marker', group: 'Go', keys: [','] },
  { id: 'marker-on', name: 'To the next marker', group: 'Go', keys: ['.'] },
  { id: 'onset-back', name: 'To the previous onset or edge', group: 'Go', keys: ['['] },
  { id: 'onset-on', name: 'To the next onset or edge', group: 'Go', keys: [']'] },
  { id: 'beat-back', name: 'To the previous beat', group: 'Go', keys: ['Alt+,'] },
  { id: 'beat-on', name: 'To the next beat', group: 'Go', keys: ['Alt+.'] },
  { id: 'start', name: 'To the beginning', group: 'Go', keys: ['Home'] },
  { id: 'end', name: 'To the end', group: 'Go', keys: ['End'] },
  {
    id: 'part-back',
    name: 'Select the previous clip or treatment',
    group: 'Go',
    keys: ['Shift+PageUp'],
  },
  {
    id: 'part-on',
    name: 'Select the next clip or treatment',
    group: 'Go',
    keys: ['Shift+PageDown'],
  },
  { id: 'key-back', name: 'To the previous keyframe of the lane', group: 'Go', keys: ['{'] },
  { id: 'key-on', name: 'To the next keyframe of the lane', group: 'Go', keys: ['}'] },
  { id: 'track-back', name: 'Select the track above', group: 'Go', keys: ['PageUp'] },
  { id: 'track-on', name: 'Select the track below', group: 'Go', keys: ['PageDown'] },

  { id: 'zoom-selection', name: 'Zoom to what is selected', group: 'Look', keys: ['Z'] },
  { id: 'zoom-all', name: 'Zoom to the whole reel', group: 'Look', keys: ['Shift+A'] },
  { id: 'zoom-in', name: 'Zoom in at the playhead', group: 'Look', keys: ['+'] },
  { id: 'zoom-out', name: 'Zoom out at the playhead', group: 'Look', keys: ['-'] },

  { id: 'undo', name: 'Undo', group: 'Edit', keys: ['Ctrl+Z'] },
  { id: 'redo', name: 'Redo', group: 'Edit', keys: ['Ctrl+Shift+Z', 'Ctrl+Y'] },
  { id: 'copy', name: 'Copy what is selected', group: 'Edit', keys: ['Ctrl+C'] },
  { id: 'take', name: 'Cut what is selected', group: 'Edit', keys: ['Ctrl+X'] },
  { id: 'paste', name: 'Paste at the playhead', group: 'Edit', keys: ['Ctrl+V'] },
  {
    id: 'paste-clips',
    name: 'Paste the treatment over the selected clips',
    group: 'Edit',
    keys: ['Alt+V'],
  },
  { id: 'paste-markers', name: 'Paste the treatment at every marker', group: 'Edit', keys: [] },
  { id: 'duplicate', name: 'Duplicate what is selected', group: 'Edit', keys: ['Ctrl+D'] },
  { id: 'remove', name: 'Remove what is selected', group: 'Edit', keys: ['Delete', 'Backspace'] },
  {
    id: 'remove-gap',
    name: 'Remove clips and close the gap',
    group: 'Edit',
    keys: ['Shift+Delete', 'Shift+Backspace'],
  },
  { id: 'split', name: 'Split clips at the playhead', group: 'Edit', keys: ['Shift+Enter'] },
  { id: 'join', name: 'Join clips', group: 'Edit', keys: ['Ctrl+J'] },
  { id: 'select-all', name: 'Select all of the same kind', group: 'Edit', keys: ['Ctrl+A'] },
  { id: 'nothing', name: 'Deselect', group: 'Edit', keys: ['Escape'] },

  { id: 'move-back', name: 'Nudge 1 frame earlier', group: 'Move', keys: ['Alt+ArrowLeft'] },
  { id: 'move-on', name: 'Nudge 1 frame later', group: 'Move', keys: ['Alt+ArrowRight'] },
  {
    id: 'move-five-back',
    name: 'Nudge 5 frames earlier',
    group: 'Move',
    keys: ['Alt+Shift+ArrowLeft'],
  },
  {
    id: 'move-five-on',
    name: 'Nudge 5 frames later',
    group: 'Move',
    keys: ['Alt+Shift+ArrowRight'],
  },
  { id: 'raise', name: 'Raise the value a little', group: 'Move', keys: ['Alt+ArrowUp'] },
  { id: 'lower', name: 'Lower the value a little', group: 'Move', keys: ['Alt+ArrowDown'] },
  {
    id: 'order-back',
    name: 'Process the treatment one place earlier',
    group: 'Move',
    keys: ['Alt+PageUp'],
  },
  {
    id: 'order-on',
    name: 'Process the treatment one place later',
    group: 'Move',
    keys: ['Alt+PageDown'],
  },
  { id: 'trim-start', name: 'Trim the beginning to the playhead', group: 'Move', keys: ['I'] },
  { id: 'trim-end', name: 'Trim the end to the playhead', group: 'Move', keys: ['U'] },
  { id: 'fade-in', name: 'Fade or ramp in up to the playhead', group: 'Move', keys: ['Shift+I'] },
  { id: 'fade-out', name: 'Fade or ramp out from the playhead', group: 'Move', keys: ['Shift+U'] },
  { id: 'slip-back', name: 'Slip the sound 1 frame earlier', group: 'Move', keys: [] },
  { id: 'fit-cut', name: 'Fit the clip to the next cut', group: 'Move', keys: [] },
  { id: 'fit-gap', name: 'Fit the clip to the next clip', group: 'Move', keys: [] },
  { id: 'own-speed', name: 'Reset the speed of clips', group: 'Move', keys: [] },
  {
    id: 'reset-speed-and-pitch',
    name: 'Reset the speed, pitch and material of clips',
    group: 'Move',
    keys: [],
  },
  { id: 'slip-on', name: 'Slip the sound 1 frame later', group: 'Move', keys: [] },

  { id: 'keyframe', name: 'Add a keyframe at the playhead', group: 'Keyframes', keys: ['K'] },
  {
    id: 'keys-in-range',
    name: 'Select the keyframes in the range',
    group: 'Keyframes',
    keys: ['Shift+K'],
  },
  { id: 'soften', name: 'Soften the selected keyframes', group: 'Keyframes', keys: [] },
  { id: 'sharpen', name: 'Sharpen the selected keyframes', group: 'Keyframes', keys: [] },
  { id: 'reverse', name: 'Reverse the selected keyframes', group: 'Keyframes', keys: [] },
  { id: 'thin', name: 'Thin out the selected keyframes', group: 'Keyframes', keys: [] },
  { id: 'unlink', name: 'Unlink the selected keyframes', group: 'Keyframes', keys: [] },
  { id: 'lane-level', name: 'Open or close the level lane', group: 'Keyframes', keys: ['V'] },
  { id: 'lane-pan', name: 'Open or close the pan lane', group: 'Keyframes', keys: ['P'] },

  { id: 'range', name: 'Mark the range: start here, then end here', group: 'Treat', keys: ['R'] },
  { id: 'add-effect', name: 'Add an effect', group: 'Treat', keys: ['/'] },
  { id: 'to-cut', name: 'Treat until the next cut', group: 'Treat', keys: ['Shift+ArrowDown'] },
  { id: 'from-cut', name: 'Treat from the previous cut', group: 'Treat', keys: ['Shift+ArrowUp'] },
  { id: 'marker', name: 'Add a marker at the playhead', group: 'Treat', keys: ['M'] },

  { id: 'beat-markers', name: 'Add markers on every beat of the range', group: 'Treat', keys: [] },
  {
    id: 'beat-markers-2',
    name: 'Add markers on every second beat of the range',
    group: 'Treat',
    keys: [],
  },
  {
    id: 'beat-markers-4',
    name: 'Add markers on every fourth beat of the range',
    group: 'Treat',
    keys: [],
  },
  { id: 'reset-effects', name: 'Reset all effects of the treatment', group: 'Treat', keys: [] },

  { id: 'search', name: 'Search all commands', group: 'Reel', keys: ['Ctrl+K'] },
  { id: 'keys', name: 'Keyboard shortcuts', group: 'Reel', keys: ['?'] },
  { id: 'export', name: 'Export…', group: 'Reel', keys: ['Ctrl+E'] },
] as const satisfies Spec[];

export type CommandId = (typeof COMMANDS)[number]['id'];
