export { CommandPalette } from './command-palette';
export { KeysDialog } from './keys-dialog';
export { StyleDialog } from './style-dialog';
