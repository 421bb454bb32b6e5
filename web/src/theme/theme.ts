import { createTheme, type MantineColorsTuple } from '@mantine/core';

const sea: MantineColorsTuple = [
  '#e2f1f5',
  '#c6e3ec',
  '#98cade',
  '#79b6cf',
  '#5a9fbc',
  '#3f86a5',
  '#2c7291',
  '#1f6484',
  '#174f69',
  '#0f3a4e',
];

// By night, from ink to the deepest paper, as in tokens.css. From the fifth on they lie under quiet
// words: 4.5:1 (WCAG 1.4.3).
const dark: MantineColorsTuple = [
  '#dfe9e6',
  '#c3d2d2',
  '#a3b8bf',
  '#6d8b97',
  '#2b4653',
  '#274351',
  '#1a2d38',
  '#0d1a22',
  '#0b161d',
  '#081116',
];

export const theme = createTheme({
  colors: { sea, dark },
  primaryColor: 'sea',
  primaryShade: { light: 7, dark: 6 },
  autoContrast: true,
  fontFamily: 'var(--words)',
  fontFamilyMonospace: 'var(--numbers)',
  defaultRadius: 6,
  cursorType: 'pointer',
  components: {
    Modal: { defaultProps: { centered: true, closeButtonProps: { 'aria-label': 'Close' } } },
    Tooltip: { defaultProps: { openDelay: 500 } },
    // Its first item has the focus; an empty one before it would be no item of a menu.
    Menu: { defaultProps: { withInitialFocusPlaceholder: false } },
  },
});
