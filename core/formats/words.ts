import { movementName } from './movementNames.ts';
import {
  entry,
  inOrder,
  kindOf,
  kindOfPlacement,
  placementNames,
  spawnedOf,
  type Condition,
  type ItemRule,
  type Kind,
  type Level,
  type Rule,
} from '../level/index.ts';
import type { LedgerLine } from '../session/index.ts';
import { clockTime, pairText, plainNumber, signed } from './numerals.ts';

/** The name of a placement or of a spawned thing, as it is known everywhere. */
export function placementName(level: Level, id: string): string {
  const spawned = spawnedOf(id);
  if (spawned !== null) return `${kindOf(level, spawned.kind)?.name ?? spawned.kind} ${String(spawned.serial)}`;
  return placementNames(level).get(id) ?? id;
}

/** Whoever set something off: a player, a mover by its name, or nobody. */
export function toucherWords(level: Level, toucher: string | null): string {
  if (toucher === null) return 'nobody';
  return toucher.startsWith('player ') ? toucher : placementName(level, toucher);
}

type At = Pick<Extract<LedgerLine, { type: 'changed' }>, 'placement' | 'rule' | 'ofItem'>;

/** What a line is about: the thing, the item, or the session itself. */
function source(level: Level, { placement, ofItem }: At): string {
  if (placement !== null) return placementName(level, placement);
  return ofItem === null ? 'the session' : (entry(level.items, ofItem)?.name ?? ofItem);
}

function ruleOf(level: Level, { placement, rule, ofItem }: At): Rule | ItemRule | undefined {
  if (rule === null) return undefined;
  if (ofItem !== null) return entry(level.items, ofItem)?.rules[rule];
  return placement === null ? undefined : kindOfPlacement(level, placement)?.rules[rule];
}

/** A condition that does not hold, in words: `health is not below 50`. */
function failedWords(level: Level, condition: Condition | undefined): string {
  const item = (id: string): string => entry(level.items, id)?.name ?? id;
  const meter = (id: string): string => entry(level.meters, id)?.name ?? id;
  switch (condition?.type) {
    case 'meter':
      return `${meter(condition.meter)} is not ${condition.is} ${plainNumber(condition.value)}`;
    case 'share':
      return `${meter(condition.meter)} is not ${condition.is} ${plainNumber(condition.value * 100)} % of its limit`;
    case 'item':
      return `${item(condition.item)} carried is not ${condition.is} ${plainNumber(condition.value)}`;
    case 'held':
      return `${item(condition.item)} is not held`;
    case 'movement':
      return `${movementName(condition.of)} is ${condition.present ? 'not changed' : 'changed'}`;
    case 'speed':
      return `speed is not ${condition.is} ${plainNumber(condition.value)} u/s`;
    case 'ground':
      return 'not on the ground';
    case 'chance':
      return `not this time (chance ${plainNumber(condition.value * 100)} %)`;
    case 'times used':
      return `times used is not ${condition.is} ${plainNumber(condition.value)}`;
    case 'time':
      return `session time is not ${condition.is} ${plainNumber(condition.value)} s`;
    case 'notice':
      return `notice ${condition.notice} has ${condition.posted ? 'not ' : ''}been posted`;
    case 'below limit':
      return `${meter(condition.meter)} is full`;
    default:
      return 'its condition does not hold';
  }
}

function refusal(level: Level, line: Extract<LedgerLine, { type: 'refused' }>): string {
  const rule = ruleOf(level, line);
  const left = line.secondsLeft === null ? '' : `, ${plainNumber(line.secondsLeft, 1)} s left`;
  const item = line.item === null ? '' : (entry(level.items, line.item)?.name ?? line.item);
  switch (line.reason) {
    case 'wrong tag': {
      const who = rule !== undefined && 'who' in rule ? rule.who : { any: [], none: [] };
      return `${toucherWords(level, line.toucher)} is ${who.any.length === 0 ? `tagged ${who.none.join(' or ')}` : `not tagged ${who.any.join(' or ')}`}`;
    }
    case 'full':
    case 'condition':
      return failedWords(level, rule?.provided[line.condition ?? '']);
    case 'carry limit':
      return `no more ${item} can be carried`;
    case 'empty':
      return `not enough ${item}`;
    case 'no item':
      return `${item} cannot be dropped`;
    case 'blocked':
      return `blocked by a shield${left}`;
    case 'dead':
      return `${toucherWords(level, line.toucher)} is dead`;
    default:
      return line.reason + left;
  }
}

/** Why an effect came to nothing. */
function nothingWords(level: Level, line: Extract<LedgerLine, { type: 'nothing' }>): string {
  const left = line.secondsLeft === null ? '' : `, ${plainNumber(line.secondsLeft, 1)} s left`;
  const meter = line.meter === null ? '' : (entry(level.meters, line.meter)?.name ?? line.meter);
  const item = line.item === null ? '' : (entry(level.items, line.item)?.name ?? line.item);
  switch (line.reason) {
    case 'full':
      return `${meter} is full, ${signed(line.asked)} wasted`;
    case 'empty':
      return item === '' ? `${meter} is at its lower limit` : `there is no ${item} to take`;
    case 'carry limit':
      return `no more ${item} can be carried`;
    case 'no player':
      return `${toucherWords(level, line.toucher)} is no player`;
    case 'nobody there':
      return 'nobody was there';
    case 'blocked':
      return `blocked by a shield${left}`;
    case 'grace':
      return `nothing harms just after a return${left}`;
    case 'dead':
      return `${toucherWords(level, line.toucher)} is dead`;
    default:
      return line.reason + left;
  }
}

function phaseWords(level: Level, line: Extract<LedgerLine, { type: 'phase' }>): string {
  const name = placementName(level, line.placement) + (line.player === null ? '' : ` (for ${line.player})`);
  const until = line.untilSeconds === null ? '' : ` until ${clockTime(line.untilSeconds)}`;
  switch (line.phase) {
    case 'resting':
      return `${name} rests${until}`;
    case 'ready':
      return `${name} is ready${until === '' ? ' again' : until}`;
    case 'winding up':
      return `${name} winds up${until}`;
    default:
      return `${name} is ${line.phase}${until}`;
  }
}

/** What came from outside; what it did has lines of its own. */
function outsideWhat(what: string, who: string): string {
  if (what === 'join' || what === 'leave') return `${who} ${what}s`;
  return `${what === 'item' ? 'an' : 'a'} ${what} for ${who}`;
}

/** A ledger line in plain words, without its time. Where there are several players it names the one it is about. */
export function lineWords(level: Level, line: LedgerLine): string {
  const words = eventWords(level, line);
  return 'moved' in line && line.moved ? `${words}, left by being moved` : words;
}

function eventWords(level: Level, line: LedgerLine): string {
  /** Whose meter, item or movement it is; who brought something about. */
  const player = 'toucher' in line && line.toucher !== null && level.players.count > 1 ? toucherWords(level, line.toucher) : null;
  const whose = player === null ? '' : `${player}’s `;
  const by = player === null ? '' : `, by ${player}`;
  const meter = (id: string): string => entry(level.meters, id)?.name ?? id;
  const item = (id: string): string => entry(level.items, id)?.name ?? id;
  const span = ({ before, after }: { before: number; after: number }): string => `${plainNumber(before)} → ${plainNumber(after)}`;
  const place = ({ x, y }: { x: number; y: number }): string => pairText(x, y, 1);
  const asked = (change: { asked: number; applied: number }): string =>
    Math.abs(change.asked - change.applied) > 1e-9 ? ` (asked ${signed(change.asked)})` : '';
  const who = (toucher: string | null): string => toucherWords(level, toucher);
  const until = (seconds: number | null): string => (seconds === null ? '' : ` until ${clockTime(seconds)}`);
  switch (line.type) {
    case 'changed':
      return `${source(level, line)}: ${whose}${meter(line.meter)} ${signed(line.applied)}${asked(line)}, ${span(line)}`;
    case 'rate': {
      const seconds = plainNumber(line.seconds - line.fromSeconds, 1);
      const from = line.placement === null && line.ofItem === null ? 'regeneration' : source(level, line);
      return `${from}: ${whose}${meter(line.meter)} ${signed(line.applied)} in ${seconds} s, to ${plainNumber(line.after)}`;
    }
    case 'refused':
      return `${source(level, line)} refused ${who(line.toucher)}: ${refusal(level, line)}`;
    case 'nothing':
      return `${source(level, line)} came to nothing for ${who(line.toucher)}: ${nothingWords(level, line)}`;
    case 'phase':
      return phaseWords(level, line);
    case 'limit':
      return `${meter(line.meter)} of ${who(line.toucher)} is at its limit, ${plainNumber(line.value)}`;
    case 'died':
      return `${who(line.toucher)} died${line.placement === null ? '' : ` of ${placementName(level, line.placement)}`} at ${place(line)}`;
    case 'movement': {
      const name = movementName(line.of);
      if (!line.begun) return `${source(level, line)}: its change of ${whose}${name} ends, ${span(line)}`;
      return `${source(level, line)}: ${whose}${name} ${span(line)}${until(line.untilSeconds)}`;
    }
    case 'item':
      return `${source(level, line)}: ${whose}${item(line.item)} ${signed(line.applied)}${asked(line)}, ${span(line)}`;
    case 'launched':
      return `${source(level, line)} launches ${who(line.toucher)}: speed ${span(line)} u/s`;
    case 'moved':
      return `${source(level, line)} puts ${who(line.toucher)} at ${place(line)}`;
    case 'checkpoint':
      return `${source(level, line)}: checkpoint of ${who(line.toucher)} at ${place(line)}`;
    case 'shield':
      return line.begun
        ? `${source(level, line)} shields ${who(line.toucher)}${until(line.untilSeconds)}`
        : `shield of ${who(line.toucher)} ends`;
    case 'notice':
      return `${source(level, line)} posts ${line.notice}${by}`;
    case 'spawned':
      return `${placementName(level, line.placement)} appears at ${place(line)}${line.by === null ? '' : `, from ${placementName(level, line.by)}`}${by}`;
    case 'relocated':
      return `${placementName(level, line.placement)} moves to ${place(line)}${by}`;
    case 'crowded':
      return 'no place was clear enough: the clearest was taken';
    case 'stopped':
      return `a chain of more than 64 links was stopped, ${String(line.links)} left`;
    case 'displaced':
      return `where ${who(line.toucher)} was to be ${line.outside ? 'is outside the level' : 'lies in a solid'}: put at ${place(line)}`;
    case 'returned':
      return `${who(line.toucher)} comes back at ${place(line)}`;
    case 'present':
      return `${who(line.toucher)} ${line.present ? 'joins' : 'leaves'}`;
    case 'drawn':
      return line.begun
        ? `${placementName(level, line.placement)} is drawn to ${who(line.toucher)}`
        : `${placementName(level, line.placement)} gives up`;
    case 'flourish':
      return `flourish: ${entry(level.flourishes, line.flourish)?.name ?? line.flourish}`;
    case 'held':
      return line.item === null ? `${who(line.toucher)} puts away what was held` : `${who(line.toucher)} holds ${item(line.item)}`;
    case 'outside':
      return `from outside: ${outsideWhat(line.what, who(line.toucher))}`;
    case 'ended':
      return {
        lost: `the session is lost${by}`,
        won: `the session is won${by}`,
        time: 'time is up',
        running: 'the inputs end here',
        'too many contacts': 'more things touch at once than a session can hold: it ends here',
        'too many changes': 'a player has more changes of movement at once than a session can hold: it ends here',
      }[line.how];
  }
}

/** The label of a kind as a player in reach reads it, with its name and main amount filled in; null where it has none. */
export function labelOf(kind: Kind): string | null {
  if (kind.label === null) return null;
  const effects = inOrder(kind.rules).flatMap(([, { effects }]) => inOrder(effects).map(([, effect]) => effect));
  const amounts = effects.flatMap((effect) => {
    if (effect.type === 'meter')
      return typeof effect.amount === 'number' ? [effect.change === 'take' ? -effect.amount : effect.amount] : [];
    return effect.type === 'item' || effect.type === 'lives' ? [effect.count] : [];
  });
  const amount = amounts[0] === undefined ? '' : signed(amounts[0]);
  return kind.label.replaceAll('{name}', kind.name).replaceAll('{amount}', amount);
}
