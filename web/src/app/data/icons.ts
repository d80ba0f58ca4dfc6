import { inject, Injectable } from '@angular/core';
import { MatIconRegistry } from '@angular/material/icon';
import { DomSanitizer } from '@angular/platform-browser';
import {
  mdiAccount,
  mdiAlertOctagon,
  mdiCheckBold,
  mdiDataMatrixScan,
  mdiEyeOutline,
  mdiHandBackRight,
  mdiKeyboard,
  mdiMenu,
  mdiPlus,
  mdiRuler,
  mdiSawtoothWave,
  mdiThemeLightDark,
  mdiUndo,
  mdiClose,
} from '@mdi/js';

const ICONS = {
  person: mdiAccount,
  retire: mdiAlertOctagon,
  fine: mdiCheckBold,
  watch: mdiEyeOutline,
  hold: mdiHandBackRight,
  keys: mdiKeyboard,
  menu: mdiMenu,
  add: mdiPlus,
  units: mdiRuler,
  grind: mdiSawtoothWave,
  light: mdiThemeLightDark,
  undo: mdiUndo,
  remove: mdiClose,
  scan: mdiDataMatrixScan,
} as const;

/** Icons ship inside the app as paths; nothing is fetched. */
@Injectable({ providedIn: 'root' })
export class Icons {
  constructor() {
    const registry = inject(MatIconRegistry);
    const sanitizer = inject(DomSanitizer);
    for (const [name, path] of Object.entries(ICONS)) {
      registry.addSvgIconLiteral(
        name,
        sanitizer.bypassSecurityTrustHtml(
          `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 24 24"><path d="${path}"/></svg>`,
        ),
      );
    }
  }
}
