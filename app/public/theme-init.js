// Runs before the first paint, so that the chosen theme does not flash in late.
(function () {
  var choice = null;
  try {
    choice = localStorage.getItem('rotunda-theme');
  } catch (_error) {
    choice = null;
  }
  var dark =
    choice === 'dark' || (choice !== 'light' && matchMedia('(prefers-color-scheme: dark)').matches);
  document.documentElement.dataset.theme = dark ? 'rotunda-dark' : 'rotunda-light';
})();
