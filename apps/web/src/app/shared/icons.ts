import { inject, provideAppInitializer } from '@angular/core';
import { MatIconRegistry } from '@angular/material/icon';
import { DomSanitizer } from '@angular/platform-browser';
import {
  mdiAlertCircleOutline,
  mdiArrowDown,
  mdiArrowLeft,
  mdiArrowUp,
  mdiChartBar,
  mdiCheck,
  mdiChevronDown,
  mdiChevronRight,
  mdiClose,
  mdiDotsHorizontal,
  mdiDrag,
  mdiFolderOutline,
  mdiLockOutline,
  mdiMagnify,
  mdiMenuDown,
  mdiPin,
  mdiPlus,
  mdiRedo,
  mdiStar,
  mdiStarOutline,
  mdiTable,
  mdiUndo,
} from '@mdi/js';

/** Pictures that are quicker than words, by what they say; every use has a name beside it or as its label. */
const ICONS = {
  add: mdiPlus,
  back: mdiArrowLeft,
  chart: mdiChartBar,
  check: mdiCheck,
  close: mdiClose,
  down: mdiArrowDown,
  drag: mdiDrag,
  find: mdiMagnify,
  folder: mdiFolderOutline,
  fold: mdiChevronDown,
  unfold: mdiChevronRight,
  locked: mdiLockOutline,
  more: mdiDotsHorizontal,
  open: mdiMenuDown,
  pin: mdiPin,
  redo: mdiRedo,
  star: mdiStar,
  'star-outline': mdiStarOutline,
  table: mdiTable,
  undo: mdiUndo,
  up: mdiArrowUp,
  warning: mdiAlertCircleOutline,
} as const;

/** Registers the icons; they are part of the scripts, nothing is fetched. */
export const provideIcons = () =>
  provideAppInitializer(() => {
    const [registry, sanitizer] = [inject(MatIconRegistry), inject(DomSanitizer)];
    for (const [name, path] of Object.entries(ICONS)) {
      const svg = `<svg viewBox="0 0 24 24"><path d="${path}"/></svg>`;
      registry.addSvgIconLiteral(name, sanitizer.bypassSecurityTrustHtml(svg));
    }
  });
