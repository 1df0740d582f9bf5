const units: readonly (readonly [Intl.RelativeTimeFormatUnit, number])[] = [
  ['day', 86_400],
  ['hour', 3600],
  ['minute', 60],
]
const format = new Intl.RelativeTimeFormat('en', { numeric: 'auto' })

/** How long ago a moment was, in words; `now` in milliseconds. */
export function sayAge(moment: string, now = Date.now()): string {
  const seconds = Math.max(0, (now - Date.parse(moment)) / 1000)
  const unit = units.find(([, size]) => seconds >= size)
  return unit ? format.format(-Math.floor(seconds / unit[1]), unit[0]) : 'just now'
}
