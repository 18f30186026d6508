import { countOf, figure, oneOr } from '../words';
import type { EditFate } from '../deploy/afterStart';

/** What was seen after the game ran. */
export interface AfterStart {
  title: string;
  /** Problems that its log names; undefined where no log is known. */
  problems: number | undefined;
  /** Files of packs that are deployed, and how many of them the log says were loaded. */
  counted: number;
  loaded: number | undefined;
  fates: readonly EditFate[];
  /** Settings files that the game only put into another order. */
  sorted: number;
  /** Deployed files that are others than they were. */
  drifted: number;
}

function aboutSettings(fates: readonly EditFate[], sorted: number): string[] {
  const of = (fate: EditFate['fate']) => fates.filter((one) => one.fate === fate).length;
  const [stayed, dropped, changed, back] = [of('stayed'), of('dropped'), of('changed'), of('back')];
  const order =
    sorted > 0
      ? [`It put ${countOf(sorted, 'settings file')} into an order of its own; nothing of yours is lost by that.`]
      : [];
  if (fates.length === 0) return order;
  if (stayed === fates.length)
    return [
      fates.length === 1
        ? 'The setting that was edited stayed.'
        : stayed === 2
          ? 'Both edited settings stayed.'
          : `All ${countOf(stayed, 'edited setting')} stayed.`,
      ...order,
    ];
  const was = (count: number, what: string) =>
    count === 0 ? [] : [`${figure(count)} ${oneOr(count, 'was', 'were')} ${what}`];
  const lost = [...was(dropped, 'dropped'), ...was(changed, 'changed'), ...was(back, 'put back')];
  return [
    `Of ${countOf(fates.length, 'edited setting')} ${stayed === 0 ? 'none' : figure(stayed)} stayed: ${lost.join(', ').replace(/, ([^,]*)$/, ' and $1')}.`,
    ...order,
  ];
}

/**
 * What came of a start of the game, in one breath: its log against what was deployed, the edits, files that are others
 * now.
 */
export function whatCameOf({ title, problems, counted, loaded, fates, sorted, drifted }: AfterStart): {
  level: 'note' | 'wrong';
  says: string;
} {
  const says = [
    ...(problems === undefined
      ? []
      : [problems === 0 ? 'Its log names no problem.' : `Its log names ${countOf(problems, 'problem')}.`]),
    ...(loaded === undefined || counted === 0
      ? []
      : [`It loaded ${figure(loaded)} of the ${countOf(counted, 'file')} of your packs.`]),
    ...aboutSettings(fates, sorted),
    ...(drifted === 0
      ? []
      : [
          `${countOf(drifted, 'file')} that the app had put there ${oneOr(drifted, 'is another one', 'are others')} now.`,
        ]),
  ];
  const wrong =
    (problems ?? 0) > 0 ||
    drifted > 0 ||
    fates.some(({ fate }) => fate !== 'stayed') ||
    (loaded !== undefined && loaded < counted);
  return {
    level: wrong ? 'wrong' : 'note',
    says: [`${title} was started, or another program wrote to its files.`, ...says].join(' '),
  };
}
