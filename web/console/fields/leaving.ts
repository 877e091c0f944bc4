/** How a line leaves for a system that takes item codes. */
export const leavings = [
  { key: 'together', name: 'together, under one code' },
  { key: 'beside', name: 'with its components in lines beside it' },
  { key: 'instead', name: 'as the lines of its components' },
];

/** The same for one system: its own way, or that of the shop. */
export const leavingsOfOne = [{ key: null, name: 'as for all of them' }, ...leavings];
