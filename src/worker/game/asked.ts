import {
  checklistOf,
  launchOptions,
  nameKey,
  numberedSections,
  onceFor,
  proposeSettings,
  takeBackSettings,
  type ChecklistItem,
  type DeployedState,
  type Placement,
  type SettingProposal,
  type SettingsDocument,
  type PackLayer,
  type TargetPath,
  parseTarget,
} from '@/core';
import type { Session } from './session';

type Documents = readonly { target: TargetPath; document: SettingsDocument }[];

/**
 * The opened settings files as they are without what the app has put into them: “change fog=1 to fog=0” would ask for
 * fog=1 where it is 0 already. The same list for as long as files and records are the same.
 */
const documentsIn = onceFor((settings: ReadonlyMap<string, SettingsDocument>) =>
  onceFor((state: DeployedState): Documents => {
    const put = new Map(state.files.flatMap(({ target, living }) => (living ? [[nameKey(target), living.edits]] : [])));
    return [...settings].map(([of, document]) => {
      const edits = put.get(nameKey(of));
      return { target: parseTarget(of), document: edits ? takeBackSettings(document, edits).document : document };
    });
  }),
);

/** A settings file as it is without what the app has put into it. */
export const documentBefore = ({ picture }: Session, file: string): SettingsDocument | undefined =>
  documentsIn(picture.settings)(picture.state).find(({ target }) => target === file)?.document;

interface Asked {
  documents: object;
  readMe: object | undefined;
  asked: SettingProposal[];
}

interface Listed {
  asked: SettingProposal[];
  state: object;
  ticked: PackLayer['ticked'];
  steps: ChecklistItem[];
}

const known = new WeakMap<Placement, Asked>();

const listed = new WeakMap<Placement, Listed>();

/**
 * What a pack's read-me asks to set in this game, and the read-me as a list of steps; remembered until one of them
 * changes.
 */
export async function askedBy(
  session: Session,
  layer: PackLayer,
): Promise<{ asked: readonly SettingProposal[]; steps: readonly ChecklistItem[] }> {
  const documents = documentsIn(session.picture.settings)(session.picture.state);
  const { placement, ticked } = layer;
  const { pack, readMe, pageFrom } = await session.openPack(layer.packId);
  const { card, statements } = session.game;
  const before = known.get(placement);
  const same = before?.documents === documents && before.readMe === readMe;
  const asked = same
    ? before.asked
    : readMe
      ? proposeSettings({ card, statements, documents, readMe, entries: pack.entries, placement })
      : [];
  if (!same) known.set(placement, { documents, readMe, asked });
  const { state } = session.picture;
  const now = listed.get(placement);
  if (now?.asked === asked && now.state === state && now.ticked === ticked) return now;
  const steps = readMe
    ? checklistOf({
        entries: pack.entries,
        card,
        gameFiles: session.picture.ownFiles,
        readMe,
        placement,
        proposals: asked,
        isSet: (one) => isSet(session, one),
        deployed: isDeployed(session, layer.id),
        ticked: ticked ?? [],
        pageFrom,
      })
    : [];
  const made = { asked, state, ticked, steps };
  listed.set(placement, made);
  return made;
}

/** Is a setting so in the files as they are? */
function isSet({ picture, game, stack }: Session, one: SettingProposal): boolean {
  if (one.kind === 'key')
    return (
      picture.settings
        .get(one.file)
        ?.get(one.path)
        ?.replace(/^"(.*)"$/, '$1') === one.value.replace(/^"(.*)"$/, '$1')
    );
  if (one.kind === 'numbered section') {
    const document = picture.settings.get(one.file);
    return (
      document !== undefined &&
      numberedSections(document, one.section).some(({ keys }) =>
        one.keys.every(({ key, value }) =>
          keys.some((has) => nameKey(has.key) === nameKey(key) && has.value === value),
        ),
      )
    );
  }
  const { launch } = game.card;
  const kept =
    launch && 'file' in launch && launch.file !== undefined && launch.path
      ? picture.settings.get(launch.file)?.get(launch.path)
      : stack.launchLine;
  const [option = ''] = one.option.split(/[\s=]/);
  return kept !== undefined && launchOptions(kept).some(({ name }) => nameKey(name) === nameKey(option));
}

/** Is all that a pack brings in the game as it should be? */
const isDeployed = ({ picture: { state, plan } }: Session, id: string): boolean =>
  state.files.some(({ layer, living }) => layer === id && !living) &&
  !plan.steps.some(({ layer }) => layer === id) &&
  !plan.drifted.some(({ layer }) => layer === id);
