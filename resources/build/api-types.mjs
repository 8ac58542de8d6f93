// The types of what the API answers, made from its description: resources/ts/shared/api.generated.ts.
//   node resources/build/api-types.mjs          writes it
//   node resources/build/api-types.mjs --check  says whether it is as it would be made now
import { execFileSync } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import openapiTS, { astToString } from 'openapi-typescript'
import * as prettier from 'prettier'
import ts from 'typescript'

const FILE = new URL('../ts/shared/api.generated.ts', import.meta.url)
const HEAD = `// Made by resources/build/api-types.mjs from app/OpenApi/answers.yaml; not to be changed by hand.
import type { Choice, Design, LegendLine, Look, Peg, PegHead, ProposedTile, RuleTrees } from './types'

`

const description = JSON.parse(
  execFileSync(
    'php',
    ['-r', `require 'vendor/autoload.php'; echo App\\OpenApi\\AnswerShapes::read()->document();`],
    {
      encoding: 'utf8',
      maxBuffer: 64_000_000,
    },
  ),
)
/** A type that is written by hand, by its text. */
const typeOf = (text) => {
  const source = ts.createSourceFile('x.ts', `type X = ${text}`, ts.ScriptTarget.Latest, true)
  return source.statements[0].type
}
const ast = await openapiTS(description, {
  transform: (schema) => (schema['x-typescript'] ? typeOf(schema['x-typescript']) : undefined),
})
const made = HEAD + astToString(ast)
const config = await prettier.resolveConfig(FILE)
const text = await prettier.format(made, { ...config, parser: 'typescript' })
if (process.argv.includes('--check')) {
  if (readFileSync(FILE, 'utf8') !== text) {
    console.error(
      'resources/ts/shared/api.generated.ts is not what the API says now: node resources/build/api-types.mjs',
    )
    process.exit(1)
  }
} else {
  writeFileSync(FILE, text)
}
