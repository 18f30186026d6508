/** Words that invented games are made of. None names a game, a site or a person. */
export const THINGS = 'anchor apron badger barley basket beacon birch bramble bridge brook bucket candle cedar cellar chalk cinder clover comet copper cotton crane creek daisy dapple drift ember fennel fern ferry flint fossil foxglove garnet gravel grove gull harbor harrow hazel heath hedge heron hollow husk iris ivy juniper kelp kettle kiln lantern lark lichen linen locket loom lupin maple marl meadow millet mint moor moth mulberry nettle oat orchard osprey otter oxbow pebble pewter pigeon pine plover plum poppy quarry quartz quill raven reed ridge river robin rowan rust saddle saffron sage sandbar sedge shale shell silt skylark slate sleet sorrel sparrow spindle spruce starling stile stork sumac swallow tallow tarn tawny teal thatch thicket thimble thistle thrush tide timber tinder topaz turnip vale velvet violet walnut wharf wheat whistle wicker willow wren yarrow'.split(' ');
export const KINDS = ['boats', 'wagons', 'towers', 'gardens', 'routes', 'masks', 'songs', 'stations', 'creatures', 'shops', 'rooms', 'engines', 'bridges', 'kites', 'choirs', 'mills', 'planets', 'tribes', 'decks', 'ovens'];
export const PLAIN = ['sounds', 'pictures', 'meshes', 'fonts', 'scripts', 'maps', 'music', 'icons', 'terrain', 'quests', 'recipes', 'charts', 'letters', 'stamps', 'flags', 'plans'];
export const ENDINGS = ['rcp', 'lay', 'mdl', 'shp', 'trk', 'vox', 'bnk', 'qst', 'cht', 'stp', 'dat', 'map', 'scn', 'prt', 'mat', 'obj', 'ogg', 'png', 'tga', 'wav', 'dds', 'bin', 'jpg', 'flac'];
export const PEOPLE = ['Imre', 'Sunniva', 'Bela', 'Otis', 'Runa', 'Matei', 'Lio', 'Oda', 'Piet', 'Zora'];
export const KEYS = ['Shadows', 'fogDensity', 'extra_items', 'LooseFiles', 'scale', 'hud_size', 'allowMods', 'ViewDistance', 'bloom', 'rain', 'useCustom', 'show_names', 'limit', 'speed', 'Crowd', 'swap_textures', 'detail', 'CameraShake', 'autosave', 'tips'];
export const SECTIONS = ['Video', 'Game', 'Mods', 'Sound', 'Interface', 'Files', 'World', 'Options'];
export const WRAPPERS = ['My Download', 'v2 final', 'release', 'by a friend', 'NEW', 'pack', 'to install', 'unpacked', 'mod files', 'latest version', 'main'];

/** Where something goes: {W} is what, {F} the folder, {G} the game. Written as players write. */
export const PUT_FOLDER = [
  'Put the {W} folder into {F}.', 'Drag the folder {W} into your {F} folder.', 'Copy {W} to {F}.', '{W} goes in {F}.', 'Move {W} into the {F} directory of the game.',
  'Just drop {W} in {F} and play!', 'INSTALLATION: place the folder "{W}" in "{F}".', 'Extract the archive and move {W} to …\\{F}.', '1. Unzip.\n2. Copy {W} into {F}.\n3. Enjoy.', 'Install: {W} belongs in {F}.',
  'You will need to put {W} inside the {F} folder, next to the ones that are there.', 'The folder {W} has to sit in {F}.', 'Simply paste {W} into {F}.', 'Add {W} to your {F} folder.', 'Then {W} must be placed in the folder called {F}.',
  'Der Ordner {W} kommt in den Ordner {F}.', 'Kopiere {W} nach {F}.', 'Entpacken und {W} in das Verzeichnis {F} verschieben.', 'Copia la carpeta {W} en {F}.', 'La carpeta {W} va dentro de {F}.', 'Coloca {W} en la carpeta {F}.', 'Placez le dossier {W} dans {F}.', 'Copiez {W} dans le dossier {F}.',
];
export const PUT_ALL = [
  'Put everything into {F}.', 'Copy all files to {F}.', 'Extract into {F}.', 'Unzip this into your {F} folder.', 'All of it goes in {F}.', 'Drop the files in {F}.', 'These belong in {F}.', 'Place the contents of this archive in {F}.', 'Just copy them into the {F} directory.',
  'The files go into the game\'s {F} folder.', 'Alles in den Ordner {F} kopieren.', 'Die Dateien gehören in {F}.', 'Copia todos los archivos en {F}.', 'Copiez les fichiers dans {F}.',
];
export const RENAME = [
  'Rename {W} to {N} and put it in {F}.', 'Give {W} the name {N} and place it in {F}, over the old one.', '{W} replaces {F}/{N}: rename it first.', 'Rename it to {N} and copy it into {F}.',
];
/** A value: {K} the key, {V} the new and {O} the old value, {D} the file, {S} the section. */
export const SET = [
  'In {D}, set {K} to {V}.', 'Open {D} and change {K} from {O} to {V}.', 'Set {K}={V} in {D}.', 'Find the line {K}={O} in {D} and change it to {K}={V}.', 'Then edit {D}: {K} must be {V}.', 'You also have to set the value of {K} to {V} in {D}.',
  '{D}: change {K} to {V}', 'Open {D} with a text editor, look for {K} and write {V} instead of {O}.', 'For this to work, {K} in {D} needs to be {V}, not {O}.', 'Make sure that {K} is set to {V} in {D}.', 'The option {K} in {D} has to be {V}.', 'Change {O} to {V} behind {K} in {D}.',
  'In der {D} {K} auf {V} setzen.', 'Öffne {D} und ändere {K} von {O} auf {V}.', 'Der Wert {K} in {D} muss {V} sein.', 'En {D}, cambia {K} de {O} a {V}.', 'Abre {D} y pon {K} a {V}.', 'Dans {D}, mettez {K} à {V}.', 'Ouvrez {D} et changez {K} de {O} à {V}.',
];
export const SET_LINES = ['Add these lines to {D}:\n\n[{S}]\n{K}={V}\n', 'In {D} you need this:\n\n[{S}]\n{K}={V}\n', '{D} must contain\n  [{S}]\n  {K}={V}\n'];
export const ADD_ITEM = ['Add ,{I} to the end of {K} in {D}.', 'Append {I} to the list {K} in {D}.', 'In {D}, {K} has to name {I} as well.', 'Open {D} and add {I} to {K}.', '{I} must also be listed in {K} ({D}).'];
export const LAUNCH = ['Start the game with {O}.', 'Add {O} to the launch options.', 'The game has to be started with the parameter {O}.', 'Then put {O} on the command line.', 'Das Spiel mit {O} starten.', 'Inicia el juego con {O}.'];
export const CHOOSE = ['Choose one of them.', 'Pick the one you like; only one can be used.', 'Take either, not both.', 'Only one of these folders!', 'Nimm nur eine davon.'];
export const NOISE = ['Thanks for downloading!', 'Have fun and tell me what you think.', 'Made on a rainy weekend.', 'Version 1.2: fixed a typo.', 'Credits: me.', 'Do not reupload without asking.', 'Please back up your files first.', 'Known problems: none so far.'];
