// Writes from openapi.json the types of the server's answers (src/api/schema.d.ts) the limits of numbers
// (src/api/limits.json) and the fields of a score (src/api/scoreFields.json); with --check says whether they are up to date. Without refusals: `answer` (src/api/client.ts)
// reads all of them alike.
import { readFileSync, writeFileSync } from 'node:fs'

import openapiTS, { astToString, COMMENT_HEADER } from 'openapi-typescript'

const described = JSON.parse(readFileSync('openapi.json', 'utf8'))
for (const path of Object.values(described.paths))
  for (const operation of Object.values(path))
    operation.responses = Object.fromEntries(
      Object.entries(operation.responses).filter(([, response]) => !response.$ref),
    )
delete described.components.responses

const MANY = 20 // of fewer options each has a text of its own on the page

/** The least and greatest that a number, or each of a row, may be, or which of many options there are; undefined for neither. */
function limitsOf(field) {
  const of = (one) => [one, ...(one.anyOf ?? [])]
  const ways = of(field).flatMap((one) => (one.items ? [one, ...of(one.items)] : [one]))
  const options = ways.find((one) => one.enum?.length >= MANY)?.enum
  if (options) return { options }
  const limited = ways.find((one) => one.maximum < 10 ** 6)
  return limited && { min: limited.minimum, max: limited.maximum }
}

const limits = {}
for (const [model, { properties = {} }] of Object.entries(described.components.schemas))
  for (const [name, field] of Object.entries(properties)) {
    const found = limitsOf(field)
    if (found && !model.includes('__')) (limits[model] ??= {})[name] = found
  }

// What a score takes from its pattern, or from the piece where the pattern has none of its own.
const { Score, Pattern, Piece } = described.components.schemas
const scoreFields = Object.keys(Score.properties).filter(
  (field) => field in Pattern.properties || field in Piece.properties,
)

const written = {
  'src/api/schema.d.ts': COMMENT_HEADER + astToString(await openapiTS(described)),
  'src/api/scoreFields.json': `${JSON.stringify(scoreFields, null, 2)}\n`,
  'src/api/limits.json': `${JSON.stringify(limits, null, 2)}\n`,
}
for (const [path, text] of Object.entries(written)) {
  if (!process.argv.includes('--check')) writeFileSync(path, text)
  else if (readFileSync(path, 'utf8') !== text) {
    console.error(`${path} is not what openapi.json says: run scripts/api`)
    process.exitCode = 1
  }
}
