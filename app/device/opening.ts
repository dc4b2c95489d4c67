import { factsAsked, factsAtOpening, factsOfPieces, type ItemPlace } from '#core/procedure/opening'
import { Problem } from '#core/problem'
import { uuidv7 } from 'uuidv7'
import type { Openings, Piece } from '../../server/services/openings'
import type { jointSheet } from '../../server/services/worksheet'
import { currentStamp } from '../composables/device'
import { ApiProblem } from '../composables/useApi'
import { keptReply } from './kept'
import { keepAct } from './sender'
import { waitingList } from './waiting'

type JointReply = Awaited<ReturnType<typeof jointSheet>>
type Chosen = Partial<Record<ItemPlace, string>>
/** What a joint that was opened here is, until the server has it. */
type OpenedHere = Pick<JointReply, 'procedure' | 'schools' | 'plan' | 'beside' | 'qualification'> & {
  facts: JointReply['subject']['facts']
  joint: Partial<JointReply['joint']>
}

const along = async (base: string) => (await keptReply(`${base}/openings`)) as Openings | null

/** Pieces that a joint without a signal had its pipes from already, by place. */
async function takenHere(): Promise<Set<string>> {
  const acts = (await waitingList()).filter((w) => w.act?.what === 'open' && !w.refused)
  const places: ItemPlace[] = ['upstream', 'downstream', 'fitting']
  return new Set(acts.flatMap(({ act }) => places.map((p) => `${p} ${String(act!.body[p])}`)))
}

/** Pieces of a place that this device knows to be free, by a part of their serial number. */
export async function piecesHere(
  base: string,
  system: string,
  place: ItemPlace,
  search: string,
): Promise<Piece[]> {
  const openings = await along(base)
  const taken = await takenHere()
  const known = openings?.systems[system]?.places.find((p) => p.place === place)?.pieces ?? []
  return known.filter(
    (p) => p.serial.toLowerCase().includes(search.toLowerCase()) && !taken.has(`${place} ${p.id}`),
  )
}

/** What a joint becomes by its opening, worked out here as the server will work it out. */
function opened(
  openings: Openings,
  { joint }: Pick<JointReply, 'joint'>,
  chosen: Chosen,
  typed: Record<string, unknown>,
  at: number,
): OpenedHere {
  const { alignment, system, crew } = joint
  const own = openings.systems[system]
  const line = openings.lines[alignment]
  if (!own || !line)
    throw new Problem('not-along', 'This device has not along what this joint is opened with.', 'procedure')
  const pieces = Object.fromEntries(
    own.places.map(({ place, pieces }) => {
      const item = pieces.find((p) => p.id === chosen[place])?.item
      if (!item) throw new Problem('missing', 'Choose a piece that this device knows.', place)
      return [place, openings.pieces[item]]
    }),
  )
  const places = own.places.map((p) => p.place)
  const asked = factsAsked(own.definition, places, line)
  const known = { ...factsOfPieces(own.definition, pieces), ...line }
  const facts = factsAtOpening(own.definition, asked, known, typed)
  const same = (p: Openings['plans'][number]) =>
    p.alignment === alignment && p.system === system && p.crew === crew
  return {
    procedure: own.definition,
    schools: own.schools,
    plan: openings.plans.find(same)?.plan ?? {},
    beside: openings.plans.find(same)?.beside ?? {},
    qualification: own.qualification,
    facts,
    joint: { ...chosen, procedure: own.procedure, facts, openedAt: new Date(at).toISOString() },
  }
}

/**
 * Opens a joint where there is no signal: it is worked at once, and the opening goes out before its entries.
 *
 * @param base address of the project
 * @param typed facts as the form sends them
 * @throws ApiProblem in the words of the server, or because nothing is along
 */
export async function openHere(
  base: string,
  sheet: Pick<JointReply, 'joint'>,
  chosen: Chosen,
  typed: Record<string, unknown>,
  at: number,
): Promise<void> {
  const address = `${base}/joints/${sheet.joint.id}`
  const openings = await along(base)
  try {
    if (!openings) throw new Problem('not-along', 'This device has not along what a joint is opened with.')
    if (chosen.upstream && chosen.upstream === chosen.downstream)
      throw new Problem('same-pipe', 'A pipe is not joined to itself.', 'downstream')
    const here = opened(openings, sheet, chosen, typed, at)
    const away = { id: uuidv7(), at: new Date(at).toISOString(), stamp: currentStamp() }
    await keepAct(address, at, {
      what: 'open',
      to: `${address}/open`,
      body: { ...chosen, facts: typed, away: { ...away, procedure: here.joint.procedure } },
      here,
    })
  } catch (error) {
    if (error instanceof Problem) throw new ApiProblem(error.code, error.message, error.field, 0)
    throw error
  }
}

/** A worksheet as it stands here: of a joint whose opening waits, opened. */
export async function asOpenedHere<S>(address: string, sheet: S): Promise<S> {
  if ((sheet as { procedure: unknown }).procedure !== null) return sheet
  const act = (await waitingList(address)).find((w) => w.act?.what === 'open' && !w.refused)?.act
  if (!act) return sheet
  const { facts, joint, ...parts } = act.here as OpenedHere
  const was = sheet as JointReply
  return {
    ...was,
    ...parts,
    opening: null,
    subject: { ...was.subject, facts, state: 'in-work' },
    joint: { ...was.joint, ...joint },
  } as S
}
