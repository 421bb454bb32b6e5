import js from '@eslint/js';
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
const oneWay = Object.entries(ABOVE).map(([folder, above]) => ({
  files: [`src/${folder}/**/*.{ts,tsx}`],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          {
            group: above.map((name) => `**/${name}/**`),
            message: `src/${folder} knows nothing of what lies above it.`,
          },
        ],
      },
    ],
  },
}));

export default ts.config(
  { ignores: ['dist', 'node_modules', 'src/api/schema.d.ts'] },
  js.configs.recommended,
  ...ts.configs.strict,
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
    },
  },
  ...oneWay,
);
