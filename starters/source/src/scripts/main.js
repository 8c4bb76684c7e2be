// The footer says which year it is.
for (const spot of document.querySelectorAll('[data-year]')) {
  spot.textContent = ` · ${new Date().getFullYear()}`;
}
