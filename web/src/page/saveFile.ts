/** Hand a file over to the browser, to be stored under a name. */
export function saveFile(file: Blob, name: string) {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(file)
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
}
