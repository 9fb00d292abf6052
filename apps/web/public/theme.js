// Before the first paint: the chosen theme, else the system's.
(function () {
  var chosen = null;
  try {
    chosen = localStorage.getItem('underpass.theme');
  } catch (error) {
    // storage may be closed to us; the system's theme serves
  }
  var dark = chosen ? chosen === 'dark' : matchMedia('(prefers-color-scheme: dark)').matches;
  document.documentElement.dataset.theme = dark ? 'dark' : 'light';
})();
