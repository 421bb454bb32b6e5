/** Day or night as it was chosen, or as the system has it: before anything is drawn. */
const KEPT = 'mantine-color-scheme-value';

export function setScheme() {
  const chosen = window.localStorage.getItem(KEPT);
  const night = window.matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light';
  const scheme = chosen === 'light' || chosen === 'dark' ? chosen : night;
  window.document.documentElement.dataset['mantineColorScheme'] = scheme;
}
