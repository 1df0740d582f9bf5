/** The built-in sounds by name, for choosing: what they are made of is fetched only when there is audio. */
export const builtInSounds = [
  'thud', 'chain', 'bottle', 'clink', 'hiss', 'shell', 'winch', 'bell', 'rope', 'rail', 'plank', 'gull',
] as const // prettier-ignore
