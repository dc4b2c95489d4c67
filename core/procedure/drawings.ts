import type { DimensionKey } from '../quantity/dimension'

/** What a value of a drawing is: a dimension, a plain number, a word or a yes/no. */
export type DrawingValue = DimensionKey | 'number' | 'word' | 'flag'

export interface DrawingFamily {
  /** what it draws, for whoever writes a procedure */
  readonly about: string
  /** values it cannot be drawn without */
  readonly needs: Record<string, DrawingValue>
  readonly takes: Record<string, DrawingValue>
  /** parts that a step may point at (`key#part`) */
  readonly parts: readonly string[]
}

/**
 * The families of drawings that a procedure may use. Each is drawn to scale from
 * computed numbers by one component of the interface; none knows a joint system.
 */
export const drawingFamilies = {
  socket: {
    about: 'Two pipe ends in a coupler, with stab and scrape marks',
    needs: { od: 'length', wall: 'length', width: 'length' },
    takes: { stab: 'length', scrape: 'length' },
    parts: ['stab', 'scrape', 'squareness'],
  },
  'socket-end': {
    about: 'One pipe end in a socket, with depth and sight marks',
    needs: { od: 'length', wall: 'length', depth: 'length' },
    takes: { mark1: 'length', mark2: 'length', inside: 'flag' },
    parts: ['depth', 'sight'],
  },
  'bell-spigot': {
    about: 'Bell and spigot with the seal in its place and the faces that get lubricant',
    needs: { od: 'length', depth: 'length', seal: 'word', lubricate: 'word' },
    takes: { pitch: 'length', mark: 'length' },
    parts: ['bell', 'gasket', 'mark', 'depth', 'gap'],
  },
  'seam-clock': {
    about: 'Sealant round a joint and where its ends meet',
    needs: { school: 'word' },
    takes: { off: 'angle' },
    parts: ['seam'],
  },
  'gap-clock': {
    about: 'Four gaps, the joint angle and its direction',
    needs: { diameter: 'length' },
    takes: {},
    parts: ['gap'],
  },
  'bolt-circle': {
    about: 'Numbered bolts in their order, pass by pass',
    needs: { bolts: 'number', pattern: 'word' },
    takes: { torque: 'torque' },
    parts: ['order'],
  },
  ovality: {
    about: 'Diameters round the clock against the round pipe',
    needs: { od: 'length' },
    takes: { strut: 'length' },
    parts: ['strut'],
  },
  corrugation: {
    about: 'Valleys along a corrugated pipe, and the cut',
    needs: { pitch: 'length', first: 'length', wanted: 'length' },
    takes: { cut: 'length' },
    parts: ['cut'],
  },
  saddle: {
    about: 'A saddle on its main: washed length, peeled band, position',
    needs: { od: 'length', width: 'length' },
    takes: { washed: 'length', outlet: 'length' },
    parts: ['washed', 'band', 'position'],
  },
  thread: {
    about: 'A tapered thread: tape, turns past hand-tight, stand-off',
    needs: { od: 'length', pitch: 'length', turns: 'number', vanish: 'length' },
    takes: {},
    parts: ['tape', 'turns', 'standoff'],
  },
  swage: {
    about: 'Install and inspection marks under a swaged sleeve, as pictures to choose from',
    needs: { od: 'length', install: 'length', inspect: 'length', length: 'length' },
    takes: {},
    parts: ['install', 'inspect'],
  },
  coupling: {
    about: 'Section of a sleeve coupling with its end rings and gaskets',
    needs: { od: 'length', width: 'length' },
    takes: { mark: 'length', gap: 'length' },
    parts: ['mark', 'rings', 'gasket', 'sleeve'],
  },
  gripper: {
    about: 'Gripper ring: segments, bolts and the gaps between handles',
    needs: { segments: 'number', bolts: 'number' },
    takes: {},
    parts: ['segments', 'gaps'],
  },
  hose: {
    about: 'Hose end with its bands and where their buckles go',
    needs: { bore: 'length', length: 'length', opposite: 'flag', inner: 'flag' },
    takes: {},
    parts: ['inner', 'grips', 'buckles'],
  },
  'shrink-sleeve': {
    about: 'Shrink sleeve over a casing joint with the preheat band',
    needs: { jacket: 'length', bare: 'length' },
    takes: { carrier: 'length', length: 'length', wrap: 'length', line: 'length' },
    parts: ['preheat', 'edge', 'wrap'],
  },
} as const satisfies Record<string, DrawingFamily>

export type DrawingKey = keyof typeof drawingFamilies

/** The family of that name, or null. */
export const findDrawingFamily = (key: string): DrawingFamily | null =>
  Object.hasOwn(drawingFamilies, key) ? drawingFamilies[key as DrawingKey] : null
