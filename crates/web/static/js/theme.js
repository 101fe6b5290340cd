// Before the first paint: the theme this device chose, else the system's. The policy forbids inline script.
(() => {
  const chosen = localStorage.getItem('cerealis-theme');
  const dark = chosen ? chosen === 'dark' : matchMedia('(prefers-color-scheme: dark)').matches;
  document.documentElement.dataset.bsTheme = dark ? 'dark' : 'light';
})();
// What only works with script is shown where there is some.
document.documentElement.classList.add('js');
