// Writes the types of the server's answers (src/api/schema.d.ts) from openapi.json; with --check says whether they are
// up to date. Without refusals: `answer` (src/api/client.ts) reads all of them alike.
import { readFileSync, writeFileSync } from 'node:fs'

import openapiTS, { astToString, COMMENT_HEADER } from 'openapi-typescript'

const TYPES = 'src/api/schema.d.ts'
const described = JSON.parse(readFileSync('openapi.json', 'utf8'))
for (const path of Object.values(described.paths))
  for (const operation of Object.values(path))
    operation.responses = Object.fromEntries(
      Object.entries(operation.responses).filter(([, response]) => !response.$ref),
    )
delete described.components.responses

const types = COMMENT_HEADER + astToString(await openapiTS(described))
if (!process.argv.includes('--check')) writeFileSync(TYPES, types)
else if (readFileSync(TYPES, 'utf8') !== types) {
  console.error(`${TYPES} is not what openapi.json says: run scripts/api`)
  process.exit(1)
}
