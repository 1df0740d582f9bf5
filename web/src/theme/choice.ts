/** Which theme is worn: one of the two, or the one that the system wears. */
export type Theme = 'system' | 'day' | 'night'
export const THEMES: readonly (readonly [Theme, string])[] = [
  ['system', 'Theme of the system'],
  ['day', 'Day theme'],
  ['night', 'Night theme'],
]
