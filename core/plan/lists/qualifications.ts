import { Problem } from '../../problem'
import { signInKey } from '../../record/names'
import { dayOf, optional, words } from './columns'
import { defineList, type Column } from './define'

const person: Column<string> = {
  title: 'Sign-in name',
  choices: (ground) => ground.people.keys(),
  read(text, field, ground) {
    const key = signInKey(text)
    if (!ground.people.has(key))
      throw new Problem('not-found', `nobody here signs in as "${text.slice(0, 40)}"`, field)
    return key
  },
}

const procedure: Column<string> = {
  title: 'Procedure',
  choices: (ground) => ground.systems.keys(),
  read(text, field, ground) {
    const key = text.toLowerCase()
    if (!ground.systems.has(key))
      throw new Problem('not-found', `there is no procedure "${text.slice(0, 60)}"`, field)
    return key
  },
}

/** Who is qualified for what, since when and until when. */
export const qualificationList = defineList({
  key: 'qualifications',
  act: 'keep-people',
  title: 'Qualifications',
  one: 'qualification',
  name: null,
  columns: {
    person,
    procedure,
    since: dayOf('Since'),
    until: optional(dayOf('Until')),
    by: words('Given by', 120, 'Maker’s instructor'),
  },
  check({ since, until }) {
    if (until !== null && until < since) throw new Problem('bad-span', 'It ends before it begins.', 'until')
  },
})
