export { CommandPalette } from './command-palette';
export { KeysDialog } from './keys-dialog';
