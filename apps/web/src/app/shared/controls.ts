import type { EnvironmentProviders, Provider } from '@angular/core';
import { MAT_BUTTON_TOGGLE_DEFAULT_OPTIONS } from '@angular/material/button-toggle';
import { MAT_RIPPLE_GLOBAL_OPTIONS } from '@angular/material/core';
import { MAT_FORM_FIELD_DEFAULT_OPTIONS, type MatFormFieldDefaultOptions } from '@angular/material/form-field';
import { provideIcons } from './icons';

const FIELDS: MatFormFieldDefaultOptions = {
  appearance: 'outline',
  floatLabel: 'always',
  subscriptSizing: 'dynamic',
  hideRequiredMarker: true,
};

/** How the controls of the library behave everywhere; how they look is in the styles. Tests take the same. */
export const provideControls = (): (Provider | EnvironmentProviders)[] => [
  provideIcons(),
  { provide: MAT_RIPPLE_GLOBAL_OPTIONS, useValue: { disabled: true } },
  { provide: MAT_FORM_FIELD_DEFAULT_OPTIONS, useValue: FIELDS },
  { provide: MAT_BUTTON_TOGGLE_DEFAULT_OPTIONS, useValue: { hideSingleSelectionIndicator: true } },
];
