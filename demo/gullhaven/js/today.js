// Shows the tide wherever a page has a place for it.
for (const place of document.querySelectorAll('[data-tideclock]')) {
  place.textContent = Tideclock.state(Date.now());
}
