import { takesLetters } from './takes-letters';

const elementOf = (html: string): Element => {
  const holder = document.createElement('div');
  holder.innerHTML = html;
  return holder.querySelector('.it')!;
};

describe('takesLetters', () => {
  it.each([
    ['<input class="it" />', true],
    ['<textarea class="it"></textarea>', true],
    // a select of the library is searched by typing, so that a single key must not act behind it
    ['<div role="combobox" tabindex="0" class="it"></div>', true],
    ['<div role="listbox"><span class="it"></span></div>', true],
    ['<div role="dialog"><button class="it"></button></div>', true],
    ['<table role="grid"><tr><td class="it"></td></tr></table>', false],
    ['<button class="it"></button>', false],
  ])('says of %s: %s', (html, takes) => {
    expect(takesLetters(elementOf(html))).toBe(takes);
  });

  it('says no where nothing has the keyboard', () => {
    expect(takesLetters(null)).toBe(false);
  });
});
