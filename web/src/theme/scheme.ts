/** Day or night as it was chosen, or as the system has it: before anything is drawn, and after. */
const KEPT = 'mantine-color-scheme-value';

export function setScheme() {
  const night = window.matchMedia('(prefers-color-scheme: dark)');
  const set = () => {
    const chosen = window.localStorage.getItem(KEPT);
    const now = night.matches ? 'dark' : 'light';
    const scheme = chosen === 'light' || chosen === 'dark' ? chosen : now;
    window.document.documentElement.dataset['mantineColorScheme'] = scheme;
  };
  set();
  // Evening comes while somebody signs in, too.
  night.addEventListener('change', set);
}
