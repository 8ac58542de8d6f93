import { expect, test } from 'vitest'
import './english'
import { asFollowed, crewsIn, followedIn, shownIn } from '../../resources/ts/shared/board/crews'
import { askedOn, NONE } from '../../resources/ts/shared/board/picks'
import { dayQuery, yearBefore } from '../../resources/ts/desk/publish/board/pastDay'

const person = {
  id: 7,
  name: 'Ægir',
  crew: 'Nord',
  crew_id: 2,
  heard_at: null,
  waiting: 0,
  place: null,
}

test('a crew that is followed is no record, and a record is no crew', () => {
  const followed = { ...NONE, show: { c: asFollowed('7') } }
  expect(followedIn(followed)).toEqual({ tile: 'c', key: '7' })
  expect(shownIn(followed)).toBeNull()
  const shown = { ...NONE, show: { list: '018f-1' } }
  expect(shownIn(shown)).toEqual({ tile: 'list', record: '018f-1' })
  expect(followedIn(shown)).toBeNull()
  expect(followedIn(NONE)).toBeNull()
})

test('who is not told by name has a key all the same', () => {
  const crews = crewsIn([
    person,
    { ...person, id: null, name: null },
    { ...person, id: null, name: null, crew: null },
  ])
  expect(new Set(crews.map((c) => c.key)).size).toBe(3)
  expect(crews.map((c) => c.called)).toEqual(['Ægir', 'Nord', 'without a crew'])
})

test('a day is asked for beside what was picked', () => {
  expect(dayQuery(null, true)).toBe('')
  expect(dayQuery('2026-08-31', true)).toBe('on=2026-08-31&by=collected')
  expect(askedOn('', NONE)).toBe('')
  expect(askedOn('on=2026-08-31', { ...NONE, pick: { a: 'ü' } })).toBe(
    `on=2026-08-31&pick=${encodeURIComponent('{"a":"ü"}')}`,
  )
  expect(yearBefore('2028-02-29')).toBe('2027-02-28')
  expect(yearBefore('2026-11-27')).toBe('2025-11-27')
})
