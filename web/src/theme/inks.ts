/** The lanes' inks: eight, then the same eight lighter. A lane's `ink` is an index into these. */
export const inks: readonly string[] = [
  '#8c2f45', '#d9771b', '#a98600', '#4a8a2c', '#117f78', '#2a66b8', '#7a3f94', '#a23b72',
  '#b06b7b', '#e5a266', '#c4a83f', '#81b067', '#56a6a0', '#6d97d0', '#a27bb5', '#c07a9f',
] // prettier-ignore

export const inkOf = (ink: number): string => inks[ink % inks.length] ?? '#2b2440'
