import { checkBefore, decodeText, nameKey, openSettings, textsForChecks, type Finding, type PresentFile } from '@/core';
import { contentAt } from '../game/content';
import { futureGame } from '../game/futureFiles';
import { originalOf } from '../game/originals';
import type { Picture } from '../game/picture';
import { futureDocument } from '../game/playerEdits';
import type { Session } from '../game/session';

/** Texts larger than this (bytes) are not looked into. */
const LARGEST_TEXT = 512 * 1024;

/** The game's own text files that packs replace. */
export async function hiddenTexts(session: Session, files: readonly PresentFile[]): Promise<Map<string, string>> {
  const found = new Map<string, string>();
  for (const { target, layer } of files) {
    if (
      layer === undefined ||
      !session.game.card.texts.some(
        ({ into, ending }) => nameKey(target).startsWith(`${nameKey(into)}/`) && target.toLowerCase().endsWith(ending),
      )
    )
      continue;
    const original = await originalOf(session, target, session.picture.state);
    if (original && original.length < LARGEST_TEXT) found.set(nameKey(target), decodeText(original).text);
  }
  return found;
}

const before = new WeakMap<Picture, Promise<Finding[]>>();

/** What will not work, known before the game starts; found once for each picture. */
export function beforeStart(session: Session): Promise<Finding[]> {
  const { picture } = session;
  const known = before.get(picture) ?? look();
  before.set(picture, known);
  return known;

  async function look(): Promise<Finding[]> {
    const { card } = session.game;
    const files = futureGame(session);
    const wanted = new Set(textsForChecks(card, files));
    const texts = new Map<string, string>();
    for (const { target, layer } of files) {
      if (!wanted.has(target)) continue;
      // What cannot be read is told when it is deployed, or looked at.
      const bytes = await contentAt(session, target, layer ?? 'now').catch(() => undefined);
      if (bytes && bytes.length < LARGEST_TEXT) texts.set(nameKey(target), decodeText(bytes).text);
    }
    const settings = picture.settingsFiles.map((file) => ({
      file,
      document:
        picture.settings.has(file.target) || picture.resolution.living.has(nameKey(file.target))
          ? futureDocument(session, file.target)
          : openSettings('', file.dialect),
    }));
    return checkBefore({
      card,
      files,
      texts,
      originals: await hiddenTexts(session, files),
      settings,
      nameOf: session.nameOf,
    });
  }
}
