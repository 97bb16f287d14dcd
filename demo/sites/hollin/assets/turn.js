// Turns pages without reloading: fetches the next one and puts its main part and its menu in place.
async function turn(url, push) {
  const text = await (await fetch(url)).text();
  const next = new DOMParser().parseFromString(text, 'text/html');
  document.title = next.title;
  document.querySelector('#view').replaceWith(next.querySelector('#view'));
  document.querySelector('.site-nav').replaceWith(next.querySelector('.site-nav'));
  if (push) history.pushState({}, '', url);
  scrollTo(0, 0);
}
document.addEventListener('click', (e) => {
  const link = e.target.closest('a');
  if (!link || link.origin !== location.origin || link.target || e.ctrlKey || e.metaKey || e.shiftKey || e.defaultPrevented) return;
  e.preventDefault();
  turn(link.href, true);
});
addEventListener('popstate', () => turn(location.href, false));
