/** Where something can be pressed. Units: pixels of the window. */
interface Place {
  x: number;
  y: number;
  name: string;
  /** In a menu, a list or a dialog above the page. */
  isAbove: boolean;
}

/** All that can be pressed in the window as it stands; runs in the browser. */
export function placesToPress(): Place[] {
  const pressed =
    'button, a[href], input, th, summary, [role=tab], [role=menuitem], [role=option], [role=gridcell], [role=combobox]';
  return [...document.querySelectorAll(pressed)].flatMap((element) => {
    const { left, top, right, bottom, width, height } = element.getBoundingClientRect();
    const isIn = left >= 0 && top >= 0 && right <= innerWidth && bottom <= innerHeight;
    if (!isIn || width < 4 || height < 4) return [];
    const name = element.getAttribute('aria-label') ?? element.textContent.trim();
    return {
      ...{ x: left + width / 2, y: top + height / 2 },
      name: `${element.tagName.toLowerCase()} ${name.slice(0, 40)}`,
      isAbove: element.closest('.cdk-overlay-container') !== null,
    };
  });
}
