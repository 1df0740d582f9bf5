type Fields = Readonly<Record<string, unknown>>

/** Whether two documents, or parts of them, say the same. What they share is not looked at. */
export function isSame(one: unknown, other: unknown): boolean {
  if (one === other) return true
  if (typeof one !== 'object' || typeof other !== 'object' || !one || !other) return false
  if (Array.isArray(one))
    return Array.isArray(other) && one.length === other.length && one.every((item, at) => isSame(item, other[at])) // prettier-ignore
  const [mine, theirs] = [one as Fields, other as Fields]
  const keys = Object.keys(mine)
  return (
    !Array.isArray(other) &&
    keys.length === Object.keys(theirs).length &&
    keys.every((key) => key in theirs && isSame(mine[key], theirs[key]))
  )
}
