import js from '@eslint/js';
import access from 'eslint-plugin-jsx-a11y';
import hooks from 'eslint-plugin-react-hooks';
import globals from 'globals';
import ts from 'typescript-eslint';

/** Folders know those below them, and none above. */
const ABOVE = {
  api: ['reel', 'time', 'player', 'hand', 'ui', 'workbench', 'pages'],
  reel: ['player', 'hand', 'workbench', 'pages'],
  time: ['player', 'hand', 'workbench', 'pages'],
  player: ['hand', 'workbench', 'pages'],
  hand: ['workbench', 'pages'],
};
/** The rooms of the workbench, from the ground up: each knows those below it. */
const ROOMS = [
  'tools',
  'keys',
  'values',
  'axis',
  'selected',
  'keyframes',
  'fields',
  'listening',
  'media',
  'sounds',
  'presets',
  'recipes',
  'effects',
  'lanes',
  'analysis',
  'clips',
  'transport',
  'lists',
  'picture',
  'history',
  'treatments',
  'timeline',
  'shelf',
  'guide',
  'left',
  'commands',
];
/** What these draw is laid out late while one zooms, and some of it stands in the magnifier too. */
const LAID_OUT = ['lanes', 'clips', 'treatments'];
const VIEW = {
  group: ['**/axis/view'],
  message: "The view's scale is not that of what is drawn here: ask useSeen() or useShown().",
};
const closed = (folder, pattern, more = []) => ({
  files: [`src/${folder}/**/*.{ts,tsx}`],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          { ...pattern, message: `src/${folder} knows nothing of what lies above it.` },
          ...more,
        ],
      },
    ],
  },
});
const oneWay = [
  ...Object.entries(ABOVE).map(([folder, above]) =>
    closed(folder, { group: above.map((name) => `**/${name}/**`) }),
  ),
  ...ROOMS.flatMap((room, floor) => {
    // Neither a higher room nor what stands over all of them, the pages.
    const above = [...ROOMS.slice(floor + 1).map((name) => `${name}/`), '(\\.\\./)*pages/'];
    const knows = (folder, pages) =>
      closed(
        folder,
        {
          caseSensitive: true,
          regex: `^(\\.\\./)+(${above.join('|')})|^${pages}[A-Z]\\w*$`,
        },
        LAID_OUT.includes(room) ? [VIEW] : [],
      );
    // In a folder within the room ../Name is the room's own.
    return [
      knows(`workbench/${room}`, '(\\.\\./)+'),
      knows(`workbench/${room}/*`, '(\\.\\./){2,}'),
    ];
  }),
];

export default ts.config(
  { ignores: ['dist', 'node_modules', 'src/api/schema.d.ts'] },
  js.configs.recommended,
  ...ts.configs.strict,
  access.flatConfigs.strict,
  {
    files: ['src/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    languageOptions: {
      globals: globals.browser,
      parserOptions: {
        project: ['./tsconfig.json', './tsconfig.worklet.json'],
        tsconfigRootDir: import.meta.dirname,
      },
    },
    rules: {
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/await-thenable': 'error',
      // A field that one has just asked for is where one goes on.
      'jsx-a11y/no-autofocus': 'off',
      'jsx-a11y/label-has-associated-control': [
        'error',
        { controlComponents: ['TextField', 'TypedField', 'NativeSelect'], depth: 3 },
      ],
    },
  },
  ...oneWay,
);
