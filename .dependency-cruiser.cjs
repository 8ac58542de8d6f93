// No circles between modules, and borders between the screens: each may use what is shared, none uses another.
const apart = (name, from, to) => ({ name, severity: 'error', from: { path: from }, to: { path: to } })

module.exports = {
  forbidden: [
    {
      name: 'no-circular',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    apart('shared-is-shared', '^resources/ts/shared', '^resources/ts/(desk|field|open)/'),
    apart('desk-and-field-are-apart', '^resources/ts/desk', '^resources/ts/(field|open)/'),
    apart('field-and-desk-are-apart', '^resources/ts/field', '^resources/ts/(desk|open)/'),
    apart('open-is-apart', '^resources/ts/open', '^resources/ts/(desk|field)/'),
  ],
  options: {
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    doNotFollow: { path: 'node_modules' },
  },
}
