/*
 * Every key of the desk and the floor, in one table: key sheets, tooltips and tests come from it. A key means one thing
 * wherever it means anything. Digits go to counts; with shift they change phrases. How keys were chosen:
 * docs/architecture.md.
 */

export const STATIONS = ['count', 'cue', 'teach', 'floor', 'log', 'hand-out'] as const
export type StationName = (typeof STATIONS)[number]

export interface KeyEntry {
  /** As tinykeys writes them: "Shift+KeyA", "$mod+z"; several where keyboards differ. */
  keys: readonly string[]
  /** As people read it. */
  shown: string
  on: readonly StationName[]
  group: string
  name: string
  tip: string
}

const DESK = ['count', 'cue', 'teach', 'log', 'hand-out'] as const
const ALL = [...DESK, 'floor'] as const
const SHEET = ['count', 'cue'] as const

/** Entries of one group of some stations. */
const entries =
  (on: readonly StationName[], group: string) =>
  (keys: string | readonly string[], shown: string, name: string, tip = ''): KeyEntry => ({
    ...{ keys: typeof keys === 'string' ? [keys] : keys, shown, on, group, name, tip },
  })
const playing = entries(DESK, 'Playing')
const playingAnywhere = entries(ALL, 'Playing')
const moving = entries(DESK, 'Moving')
const movingAnywhere = entries(ALL, 'Moving')
const movingOnSheet = entries(SHEET, 'Moving')
const marking = entries(SHEET, 'Marking')
const beat = entries(['count'], 'The beat')
const tapping = entries(['count', 'floor'], 'Tapping')
const one = entries(['count'], 'The 1')
const phrases = entries(['count'], 'Phrases')
const sections = entries(['count'], 'Sections and dance')
const listening = entries(['count'], 'Listening')
const writing = entries(['cue'], 'Writing')
const changing = entries(['cue'], 'Changing')
const movingOnCue = entries(['cue'], 'Moving')
const lesson = entries(['teach'], 'The lesson')
const dancing = entries(['floor'], 'Dancing')
const adding = entries(['floor'], 'Adding up')
const markingOnFloor = entries(['floor'], 'Marking')
const beside = entries(['floor'], 'Beside the counts')

export const KEYS = {
  play: playing('Space', 'space', 'Play, stop', 'From the cursor'),
  playHere: playing('Enter', 'enter', 'Play from here', 'Again, while it plays'),
  loop: playing('o', 'O', 'Loop', 'What is marked, else this phrase, again and again'),
  loopMore: playingAnywhere(
    'Shift+O',
    'shift O',
    'Take more in',
    'The phrase at the cursor into the loop; on the floor the next counts, from the top',
  ),
  slower: playingAnywhere('Minus', '−', 'Slower', '5 %'),
  faster: playingAnywhere('Equal', '=', 'Faster', '5 %'),
  mirrored: playingAnywhere(
    'v',
    'V',
    'Mirrored, true sides',
    'Left and right as in a mirror; what is written stays',
  ),
  film: entries([...SHEET, 'teach'], 'The film')(
    'Shift+F',
    'shift F',
    'The film where you work',
    'It shows the count at the cursor, or of the chosen step, and goes along with what plays',
  ),
  undo: moving('$mod+z', 'ctrl Z', 'Undo'),
  redo: moving(['$mod+Shift+z', '$mod+y'], 'ctrl shift Z', 'Redo'),
  find: moving('$mod+k', 'ctrl K', 'Find anything', 'Actions with their keys, places, moves, settings'),
  sheetOfKeys: movingAnywhere(['Shift+?', '?'], '?', 'Keys and signs of this station'),
  countBack: movingOnSheet('ArrowLeft', '←', 'One count back', 'With shift half a count, or a third'),
  countOn: movingOnSheet('ArrowRight', '→', 'One count on', 'With shift half a count, or a third'),
  subBack: movingOnSheet('Shift+ArrowLeft', 'shift ←', 'Half a count back'),
  subOn: movingOnSheet('Shift+ArrowRight', 'shift →', 'Half a count on'),
  up: movingOnSheet(
    'ArrowUp',
    '↑',
    'A line up',
    'On Cue to the layer above, through what stands at one place',
  ),
  down: movingOnSheet('ArrowDown', '↓', 'A line down'),
  phraseBack: movingOnSheet('PageUp', 'page up', 'A phrase up', 'The same count'),
  phraseOn: movingOnSheet('PageDown', 'page down', 'A phrase down', 'The same count'),
  toFirst: movingOnSheet('Home', 'home', 'To the first phrase'),
  toLast: movingOnSheet('End', 'end', 'To the last phrase'),
  toCount: movingOnSheet(
    ['1', '2', '3', '4', '5', '6', '7', '8', '9'],
    '1 … 9',
    'To that count',
    'Of this phrase',
  ),
  goTo: movingOnSheet('g', 'G', 'Go to a place or time', '“chorus 2, 5” or “2:33”'),
  nextLook: movingOnSheet('n', 'N', 'Next that asks for a look', 'A doubtful place, or a finding'),
  mark: marking('q', 'Q', 'Mark from here', 'Up to the cursor, to loop, drill, copy or delete just that'),
  unmark: marking('Escape', 'esc', 'Unmark', 'Closes what is open'),
  double: beat('Shift+D', 'shift D', '× 2', 'Heard too slow: twice as many counts'),
  halve: beat('Shift+H', 'shift H', '÷ 2', 'Heard too fast: every second count'),
  half: beat('j', 'J', '½ beat later', 'The beat lies between these: all counts half a beat later'),
  meet: beat('m', 'M', 'Meet the sound', 'Moves the whole grid, up to 120 ms, onto the strokes of the song'),
  follow: beat(
    'f',
    'F',
    'Follow the sound',
    'From this count on both ways, counts are drawn to the strokes: for live music whose tempo moves. The count at the cursor stays.',
  ),
  steady: beat('Shift+M', 'shift M', 'Make steady', 'One exact tempo through this section'),
  tap: tapping(
    't',
    'T',
    'Tap along',
    'On Count the beat: space, enter or a pedal on every beat. On the floor your timing is measured.',
  ),
  earlier10: beat('Alt+,', 'alt ,', '− 10 ms', 'All counts 10 ms earlier'),
  later10: beat('Alt+.', 'alt .', '+ 10 ms', 'All counts 10 ms later'),
  fromEarlier: beat(
    ['Shift+Comma', '<'],
    'shift ,',
    'here − 10 ms',
    'This count and all after it 10 ms earlier',
  ),
  fromLater: beat(
    ['Shift+Period', '>'],
    'shift .',
    'here + 10 ms',
    'This count and all after it 10 ms later',
  ),
  pin: beat('p', 'P', 'Pin', 'Holds this count at its time: later moves and drags stop at it'),
  heard: beat('Shift+R', 'shift R', 'Back to what was heard', 'Takes every repair of the beat away'),
  heardHere: beat(
    'Alt+r',
    'alt R',
    'What was heard here',
    'In this section the counts go back to what was heard; repairs elsewhere stay',
  ),
  one: one(
    ['Shift+Digit1', '!'],
    'shift 1',
    'This is the 1',
    'Moves every eight so that a 1 falls here. Cues stay on their sound.',
  ),
  oneOn: one(
    'Shift+S',
    'shift S',
    'From here on',
    'The phrase is cut here and eights go on from this count; what is before stays.',
  ),
  earlier: one(',', ',', '‹ count', 'Every 1 moves one count earlier'),
  later: one('.', '.', 'count ›', 'Every 1 moves one count later'),
  bar: one(
    '/',
    '/',
    '½ phrase ›',
    'Every 1 moves half a phrase later: the bars are right, the pairs are not',
  ),
  fewer: phrases('[', '[', 'One count fewer', 'This phrase is one count shorter; what follows moves up'),
  more: phrases(']', ']', 'One count more', 'This phrase is one count longer; what follows moves on'),
  split: phrases('s', 'S', 'Split here', 'A new phrase begins at this count; nothing else moves'),
  join: phrases('u', 'U', 'Join with next', 'This phrase and the next become one'),
  four: phrases(
    'Shift+Digit4',
    'shift 4',
    '4 more counts',
    'A phrase of 4 in front of this one; what follows moves on',
  ),
  feel: phrases(
    'Shift+L',
    'shift L',
    'Straight / triplet',
    'Counts of this phrase divide in halves, or in threes',
  ),
  section: sections('a', 'A', 'Begin a section', 'A section begins with this phrase'),
  begin: sections('Shift+B', 'shift B', 'Dance begins', 'The dance begins at the cursor'),
  end: sections(
    'Shift+E',
    'shift E',
    'Dance ends',
    'The dance ends with the count at the cursor; on a sub-count, just before it',
  ),
  sectionEarlier: sections(
    ['Shift+BracketLeft', '{'],
    'shift [',
    '‹ count',
    'This section begins a count earlier: the phrase before it is shorter by one',
  ),
  sectionLater: sections(
    ['Shift+BracketRight', '}'],
    'shift ]',
    'count ›',
    'This section begins a count later: the phrase before it is longer by one',
  ),
  part: sections(
    'Shift+A',
    'shift A',
    'Begin a part',
    'A part of your dance begins at the cursor, whatever the song does there',
  ),
  sound: sections(
    'k',
    'K',
    'Mark a sound',
    'A mark on the sound at the cursor (or where it plays), to be named in the panel of words and sounds',
  ),
  words: sections(
    'y',
    'Y',
    'Words and sounds',
    'Lyric lines and marks on sounds: type, tap in, name, import',
  ),
  files: sections(
    'i',
    'I',
    'Grid from and to files',
    'Brings beats, phrases and sections from a file, or saves them to one',
  ),
  asCounted: listening(
    'z',
    'Z',
    'Hear it as counted',
    'Plays two eights of the busiest part, counted as they are now',
  ),
  otherWay: listening(
    'Shift+Z',
    'shift Z',
    'Hear another way',
    'Plays the same two eights counted another likely way; again for the next',
  ),
  write: writing(['w', 'F2'], 'W', 'Write a cue', 'Or change the one that stands here'),
  writeBeside: writing('Shift+W', 'shift W', 'Another cue here', 'Beside the one that stands here'),
  hits: writing(
    'Shift+P',
    'shift P',
    'Press on each hit',
    'It plays; a press on every hit lays a cue there, to be named afterwards',
  ),
  line: writing('l', 'L', 'Write a line', 'This layer of the phrase at once'),
  otherSide: changing('e', 'E', 'To the other side', 'What is marked, else the cue or the phrase'),
  duplicate: changing('d', 'D', 'Copy to the next phrase'),
  take: entries(['cue', 'teach'], 'Changing')(
    ['Delete', 'Backspace'],
    'delete',
    'Delete',
    'On Cue what is marked, else the cue; of a lesson the chosen steps',
  ),
  copy: changing('$mod+c', 'ctrl C', 'Copy', 'Into any routine, and any text'),
  cut: changing('$mod+x', 'ctrl X', 'Cut'),
  paste: changing('$mod+v', 'ctrl V', 'Paste'),
  replace: changing('$mod+f', 'ctrl F', 'Find and replace words'),
  shiftBack: changing('Alt+ArrowLeft', 'alt ←', 'The cue earlier', 'By half a count'),
  shiftOn: changing('Alt+ArrowRight', 'alt →', 'The cue later', 'By half a count'),
  shorter: changing('Alt+Shift+ArrowLeft', 'alt shift ←', 'The cue shorter'),
  longer: changing('Alt+Shift+ArrowRight', 'alt shift →', 'The cue longer'),
  tabs: movingOnCue(
    ['Alt+1', 'Alt+2', 'Alt+3', 'Alt+4', 'Alt+5'],
    'alt 1 … 5',
    'Cue, Phrase, Checks, Moves, Room',
    'What is beside the sheet',
  ),
  stepUp: lesson('Alt+ArrowUp', 'alt ↑', 'The step earlier'),
  stepDown: lesson('Alt+ArrowDown', 'alt ↓', 'The step later'),
  go: dancing('Space', 'space', 'Begin, stop', 'In a lesson, the step that is announced'),
  out: dancing('Escape', 'esc', 'Stop, then leave'),
  run: dancing('r', 'R', 'Run the whole dance'),
  clean: markingOnFloor(['PageDown', 'c'], 'page down, C', 'Clean', 'Goes on, where something is announced'),
  shaky: markingOnFloor('b', 'B', 'Shaky'),
  missed: markingOnFloor(['PageUp', 'x'], 'page up, X', 'Missed', 'Goes back, where something is announced'),
  slowly: dancing(
    'Enter',
    'enter',
    'Slowly from here',
    'While something is explained: from the count that is lit; stop comes back to it',
  ),
  lastTwo: adding('Shift+T', 'shift T', 'The last two', 'Takes the next counts in, danced with those before'),
  joinAlone: adding(
    'Shift+J',
    'shift J',
    'The join alone',
    'Takes the next counts in, danced where they meet',
  ),
  fallBack: adding('Shift+U', 'shift U', 'Fall back', 'Without the counts taken in last, from the top'),
  stepOn: dancing('ArrowRight', '→', 'The next step of the lesson'),
  stepBack: dancing('ArrowLeft', '←', 'The step before'),
  allSteps: dancing(
    'Shift+N',
    'shift N',
    'All steps of the lesson',
    'To go to any of them, or to leave some out',
  ),
  leaveOut: dancing('Shift+X', 'shift X', 'Leave out', 'As much of what is left as the lesson is late'),
  handsFree: dancing('h', 'H', 'Hands free', 'Steps begin by themselves'),
  beside: beside('Shift+V', 'shift V', 'Nothing, camera, figure, plan, film'),
  tips: beside('Shift+K', 'shift K', 'Tips on or off', 'Tips, usual mistakes and cautions, one a repetition'),
  replay: beside(
    'Alt+v',
    'alt V',
    'What is seen beside',
    'The camera now, the repetition before, or both; of films the next',
  ),
} as const satisfies Record<string, KeyEntry>

export type KeyId = keyof typeof KEYS

/** What is done on a station by the names of its keys. */
export function bound(
  acts: Partial<Record<KeyId, (event: KeyboardEvent) => void>>,
): Record<string, (event: KeyboardEvent) => void> {
  const out: Record<string, (event: KeyboardEvent) => void> = {}
  for (const [id, act] of Object.entries(acts)) for (const key of KEYS[id as KeyId].keys) out[key] = act
  return out
}

/** The table's entries of a station, by their groups. */
export function keysOf(station: StationName): Map<string, (KeyEntry & { id: string })[]> {
  const out = new Map<string, (KeyEntry & { id: string })[]>()
  for (const [id, entry] of Object.entries(KEYS) as [string, KeyEntry][])
    if (entry.on.includes(station)) out.set(entry.group, [...(out.get(entry.group) ?? []), { ...entry, id }])
  return out
}
