import { launchOptions, nameKey, numberedSections, type TargetPath } from '@/core';
import type { LaunchView, PackAsk } from '../contract';
import { askedBy } from '../game/asked';
import type { Session } from '../game/session';
import { futureDocument } from '../game/playerEdits';
import { futureTargets } from './numberedView';

/** The launch line; of a game whose card has none, as soon as a pack asks for an option: the player copies it. */
export function launchView(session: Session, asked: boolean): LaunchView | undefined {
  const launch =
    session.game.card.launch ?? (asked || session.stack.launchLine !== undefined ? { options: [] } : undefined);
  if (!launch) return undefined;
  const { file, path } = { file: undefined, path: undefined, ...launch } as {
    file: TargetPath | undefined;
    path: string[] | undefined;
  };
  const inFile = file !== undefined && path ? futureDocument(session, file).get(path) : undefined;
  const line = inFile ?? session.stack.launchLine ?? '';
  const files = new Set(futureTargets(session).map(nameKey));
  const card = new Map(launch.options.map((one) => [nameKey(one.option), one]));
  return {
    line,
    file,
    pending: file !== undefined && path !== undefined && session.picture.settings.get(file)?.get(path) !== inFile,
    known: launch.options.map(({ option, meaning, names }) => ({ option, meaning, takes: names !== undefined })),
    options: launchOptions(line).map(({ name, values }) => {
      const known = card.get(nameKey(name));
      const value = values.join(' ');
      const trouble =
        known?.names === undefined
          ? undefined
          : value === ''
            ? 'It names no file.'
            : files.has(nameKey(`${known.names}/${value}`))
              ? undefined
              : `There is no file “${value}” in ${known.names}.`;
      return { name, values, meaning: known?.meaning, trouble };
    }),
  };
}

/** What read-mes ask for beyond single keys, as long as it is not so. */
export async function packAsks(session: Session, launch: LaunchView | undefined): Promise<PackAsk[]> {
  const asks: PackAsk[] = [];
  for (const layer of session.packLayers()) {
    if (!layer.on) continue;
    const by = { layer: layer.id, pack: layer.name };
    for (const one of (await askedBy(session, layer)).asked) {
      if (one.kind === 'launch option') {
        const [option = '', ...rest] = one.option.split(/[\s=]/);
        if (!launch?.options.some((has) => nameKey(has.name) === nameKey(option)))
          asks.push({ kind: 'option', option, value: rest.join(' '), ...by, line: one.line });
      }
      if (one.kind !== 'numbered section') continue;
      const file = session.picture.settingsFiles.find(({ target, numbered }) => target === one.file && numbered);
      if (!file) continue;
      const there = numberedSections(futureDocument(session, one.file), one.section).some(({ keys }) =>
        one.keys.every(({ key, value }) =>
          keys.some((has) => nameKey(has.key) === nameKey(key) && has.value === value),
        ),
      );
      if (!there)
        asks.push({ kind: 'number', file: one.file, section: one.section, keys: one.keys, ...by, line: one.line });
    }
  }
  return asks;
}
