export { CommandPalette } from './command-palette';
export { KeysDialog } from './keys-dialog';
export { openStyleDialog } from './style-dialog';
