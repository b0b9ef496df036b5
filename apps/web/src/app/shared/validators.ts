import { type AbstractControl, type ValidationErrors, type ValidatorFn } from '@angular/forms';

/** Something other than blanks. */
export const named: ValidatorFn = ({ value }: AbstractControl<string>): ValidationErrors | null =>
  value.trim() === '' ? { named: 'Give it a name.' } : null;

/** A rule over a whole form that answers in words what is wrong, or with nothing. */
export const inWords =
  <T>(problemOf: (value: T) => string): ValidatorFn =>
  (control: AbstractControl<T>): ValidationErrors | null => {
    const problem = problemOf(control.getRawValue());
    return problem === '' ? null : { problem };
  };
