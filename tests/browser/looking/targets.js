/**
 * What can be pressed and is smaller than `least` pixels, in words. Words within a sentence are measured by words.js;
 * labels are pressed too.
 */
(least) =>
  [...document.querySelectorAll(
    'button, a[href], input:not([type=file]), select, [role=slider], [role=spinbutton], [role=tab]',
  )]
    .filter((of) => of.checkVisibility({ opacityProperty: true, visibilityProperty: true }))
    .filter((of) => !of.closest('.sentence, .part, .visually-hidden, p, label, .number'))
    .map((of) => [of, of.getBoundingClientRect()])
    .filter(([, { width, height }]) => width && height && Math.min(width, height) < least)
    .map(([of, { width, height }]) =>
      `${Math.round(width)}x${Math.round(height)}: ${of.getAttribute('aria-label') ?? of.textContent.trim().slice(0, 40)}`)
