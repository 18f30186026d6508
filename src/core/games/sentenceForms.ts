/* eslint-disable max-lines -- data: every sentence that a card can be told in */
/** What stands in a blank of a sentence. */
export type BlankKind =
  /** A folder or a file of the game, as a target; a folder of it; a settings file that the card knows. */
  | 'file'
  | 'folder'
  | 'settings file'
  /** Names with `*`, or targets with `*`, with commas between. */
  | 'names'
  | 'targets'
  /** A target with `{id}` or the like in it. */
  | 'target like'
  /** Names one below the other: section › key. */
  | 'path'
  | 'text'
  | 'sentence'
  | 'number'
  | 'root'
  | 'switch'
  | 'place'
  | 'rule'
  | 'recipe'
  | 'dialect'
  | 'level'
  | 'key type'
  | 'form'
  | 'about'
  /** An example of an id: letters and digits stand for any. */
  | 'id like'
  /** An example, with `{name}` where something changes. */
  | 'like'
  /** `version = info.version, id = id`. */
  | 'fields';

export type SentenceGroup =
  | 'where packs go'
  | 'what turns them on'
  | 'settings'
  | 'titles and profiles'
  | 'logs'
  | 'what it borrows from'
  | 'folders';

/**
 * One part of a card as a sentence. A blank is `{field|kind}`; one that may stay empty is `{field|kind?}`. What stands
 * in `( )` goes with its blank.
 */
export interface SentenceForm {
  id: string;
  group: SentenceGroup;
  /** What it is about, for the list to choose from. */
  title: string;
  text: string;
  /** The list or the part of the card, and the list it lies in with the field that tells its items apart. */
  in: string;
  of?: { list: string; by: string; blank: string };
  /** Fields that are always so. */
  fixed?: Readonly<Record<string, unknown>>;
  /** Filled in where the player leaves them empty. */
  otherwise?: Readonly<Record<string, string>>;
  /** Each game has one of it at most. */
  single?: true;
}

const place = (mode: string) => ({
  in: 'places',
  group: 'where packs go' as const,
  fixed: { mode },
  otherwise: { why: 'You told the app so.', title: mode },
});

/** Every part of a game card, in the player's words, the commonest first in each group. */
export const SENTENCE_FORMS: readonly SentenceForm[] = [
  {
    ...place('own-folder'),
    id: 'own-folder',
    title: 'Each pack has a folder of its own',
    text: 'Each pack gets a folder of its own in {into|folder}; (such a folder has the file {marker|text?} in it) (or folders called {parts|names?}). Why: {why|sentence?}. Called {title|text?}.',
  },
  {
    ...place('loose'),
    id: 'loose',
    title: 'Files of a kind go into a folder',
    text: 'Files called {files|names} go into {into|folder} (, always under the name {as|text?}). Why: {why|sentence?}. Called {title|text?}.',
  },
  {
    ...place('kept-zipped'),
    id: 'kept-zipped',
    title: 'Archives stay zipped',
    text: 'Archives with {holds|names} at their top stay zipped in {into|folder}. Why: {why|sentence?}. Called {title|text?}.',
  },
  {
    ...place('into-archive'),
    id: 'into-archive',
    title: 'Files go inside an archive of the game',
    text: 'Files like {entries|names} belong inside the archive {archive|file}. Why: {why|sentence?}. Called {title|text?}.',
  },
  {
    id: 'texts',
    group: 'where packs go',
    title: 'Text files that replace one another whole',
    in: 'texts',
    text: 'All files in {into|folder} that end in {ending|text} are read, in the form {dialect|dialect}; one of a name that is there replaces that one whole: {why|sentence?}.',
    otherwise: { why: 'A pack’s file of that name hides the game’s own.' },
  },

  {
    id: 'switch',
    group: 'what turns them on',
    title: 'A switch that packs need',
    in: 'switches',
    text: 'Packs that bring files like {needs|targets} need {path|path} in {file|settings file} to be {on|text}, not {off|text}, (and {after|switch?} before it). Called {title|text}. Otherwise: {why|sentence?}.',
    otherwise: { why: 'Without it the game passes over what packs bring.' },
  },
  {
    id: 'list',
    group: 'what turns them on',
    title: 'A list that names folders of packs',
    in: 'keys',
    of: { list: 'settings', by: 'target', blank: 'file' },
    fixed: { type: 'text' },
    text: '{path|path} in {file|settings file} is a list with {list|text} between its items, which name folders in {names|folder}. It means: {meaning|sentence?}.',
    otherwise: { meaning: 'Folders that the game looks into.' },
  },
  {
    id: 'numbered',
    group: 'what turns them on',
    title: 'Numbered sections',
    in: 'numbered',
    single: true,
    of: { list: 'settings', by: 'target', blank: 'file' },
    text: 'Sections of {file|settings file} are called {section|text} and a number, from {first|number} on (; {folder|text?} in them names a folder) (that lies in {inside|folder?}).',
  },
  {
    id: 'search',
    group: 'what turns them on',
    title: 'Where the game looks for files, in order',
    in: 'search',
    single: true,
    of: { list: 'settings', by: 'target', blank: 'file' },
    text: '{entry|path} in {file|settings file} says where the game looks for files, in order; the folders lie in {from|root} (; the word {each|text?} before one means every folder in it).',
  },
  {
    id: 'launch',
    group: 'what turns them on',
    title: 'Where the launch line is kept',
    in: 'launch',
    single: true,
    text: 'The launch line is kept (in {file|settings file?}) (as {path|path?}).',
  },
  {
    id: 'option',
    group: 'what turns them on',
    title: 'An option of the launch line',
    in: 'launch.options',
    text: 'The option {option|text} means: {meaning|sentence} (; it names a file in {names|folder?}).',
  },

  {
    id: 'settings',
    group: 'settings',
    title: 'A settings file',
    in: 'settings',
    text: '{target|file} is a settings file of yours, in the form {dialect|dialect}, called {title|text} (; what stands in it counts more than in {over|settings file?}).',
  },
  {
    id: 'key',
    group: 'settings',
    title: 'What a key means',
    in: 'keys',
    of: { list: 'settings', by: 'target', blank: 'file' },
    text: '{path|path} in {file|settings file} is {type|key type} and means: {meaning|sentence} (, at least {min|number?}) (, at most {max|number?}) (, one of {options|names?}) (; without it the game uses {default|text?}) (; it needs {costs|text?}) (; it names a folder in {names|folder?}).',
  },
  {
    id: 'own-files',
    group: 'settings',
    title: 'Settings files of your own',
    in: 'ownFiles',
    single: true,
    text: 'You can write settings files of your own in {into|folder} that end in {ending|text}, in the form {dialect|dialect}: {why|sentence}.',
  },

  {
    id: 'titles',
    group: 'titles and profiles',
    title: 'Ids of what you have',
    in: 'titles',
    single: true,
    text: 'What you have is called by ids like {pattern|id like}; each has a folder in {into|folder} (, and in that {inner|text?} is read); {found|target like} shows that you have it.',
  },
  {
    id: 'title',
    group: 'titles and profiles',
    title: 'What an id is called',
    in: 'titles.known',
    text: '{id|text} is {title|text}, {region|text}.',
  },
  {
    id: 'sealed',
    group: 'titles and profiles',
    title: 'A title in one sealed file',
    in: 'titles.sealed',
    single: true,
    text: 'A title in one file, {file|target like}, cannot take packs; its contents belong in {opens|folder}: {why|sentence}.',
  },
  {
    id: 'profiles',
    group: 'titles and profiles',
    title: 'Folders of people',
    in: 'profiles',
    single: true,
    text: 'Each folder in {folder|folder} is somebody’s.',
  },

  {
    id: 'log',
    group: 'logs',
    title: 'The log',
    in: 'log',
    single: true,
    text: '{target|file} is the game’s log (; lines like {trace|like?} go on with the one before) (; it ends well with {ends|rule?}) (; the number loaded is compared with files like {counts|targets?}).',
  },
  {
    id: 'loaded',
    group: 'logs',
    title: 'The line that says how many were loaded',
    in: 'log.loaded',
    single: true,
    text: 'The line {rule|rule} says in its {field|text} how many files of packs were loaded.',
  },
  {
    id: 'rule',
    group: 'logs',
    title: 'What a line of the log means',
    in: 'log.rules',
    text: 'A line like {pattern|like} means: {says|sentence}; that is {level|level} (. It names {about.kind|about?}) (by its {about.field|text?}) (, looked for in {about.under|folder?}).',
  },

  {
    id: 'edition',
    group: 'what it borrows from',
    title: 'An edition of the game',
    in: 'editions',
    text: 'There is an edition {title|text} (, known by {marker|file?}) (; its textures are at most {maxTexture|number?} pixels a side) (, of the formats {textureFormats|names?}).',
  },
  {
    id: 'content',
    group: 'what it borrows from',
    title: 'Content that packs borrow from',
    in: 'contents',
    text: '{title|text} is there when {marker|file} is (; packs speak of it as {words|names?}).',
  },
  {
    id: 'reference',
    group: 'what it borrows from',
    title: 'Files that name other files',
    in: 'references',
    text: 'A line like {pattern|like} in files like {files|targets} needs the file {needs|target like}: {why|sentence?}.',
    otherwise: { why: 'Without it the game does not load what refers to it.' },
  },
  {
    id: 'manifest',
    group: 'what it borrows from',
    title: 'What packs say of themselves',
    in: 'manifests',
    text: 'Packs say of themselves in {file|text}, {form|form}: {fields|fields}.',
  },
  {
    id: 'recipe',
    group: 'what it borrows from',
    title: 'Packs laid out for another edition',
    in: 'recipes',
    text: 'A pack with {has|names} is laid out for {from|text}; {title|text} makes it fit, and it goes to {place|place} (; {manifest.file|text?} is written) (with {manifest.template|text?}).',
  },
  {
    id: 'move',
    group: 'what it borrows from',
    title: 'What moves in such a pack',
    in: 'moves',
    of: { list: 'recipes', by: 'id', blank: 'recipe' },
    text: 'With {recipe|recipe}, {from|text?} becomes {to|text?}.',
  },
  {
    id: 'drop',
    group: 'what it borrows from',
    title: 'What stays out of such a pack',
    in: 'drops',
    of: { list: 'recipes', by: 'id', blank: 'recipe' },
    text: 'With {recipe|recipe}, {files|text} stays out: {why|sentence}.',
  },

  {
    id: 'root',
    group: 'folders',
    title: 'What a folder of the game is called',
    in: 'roots',
    text: 'The folder {id|root} is called {title|text} (, and has {markers|names?} in it always).',
  },
  {
    id: 'elsewhere',
    group: 'folders',
    title: 'When a folder lies elsewhere',
    in: 'elsewhere',
    of: { list: 'roots', by: 'id', blank: 'root' },
    text: 'While (the file {marker|file?} is there) (or {setting.path|path?} in {setting.file|file?}, in the form {setting.dialect|dialect?}, says where), {root|root} lies (at {at|folder?}): {why|sentence} ({moves|sentence?}).',
  },
];
