import { readFileSync } from 'node:fs'
import { ckmeans } from 'simple-statistics'

/* Natural classes of the values in a file by simple-statistics: seconds, and the sum of squares that is left. */

const [file, count] = process.argv.slice(2)
const values = JSON.parse(readFileSync(file, 'utf8'))
const times = []
let classes = []
for (let i = 0; i < 3; i++) {
  const begun = performance.now()
  classes = ckmeans(values, Number(count))
  times.push((performance.now() - begun) / 1000)
}
const loss = classes.reduce((sum, one) => {
  const mean = one.reduce((a, b) => a + b, 0) / one.length
  return sum + one.reduce((a, b) => a + (b - mean) ** 2, 0)
}, 0)
console.log(JSON.stringify({ seconds: times.toSorted((a, b) => a - b)[1], loss }))
