/*
 * What people call the two places in which a game lies: the program's folder, and the one in which it keeps what is the
 * player's.
 */

export const PROGRAM_FOLDER =
  /\b(?:(?:game|program|install(?:ation)?|main|root|base)(?:['’]s)?(?: (?:main|root|program|install(?:ation)?))? (?:folder|director(?:y|ies))|(?:folder|directory) (?:of|with|where|that holds|containing) (?:the|your) (?:game|program|exe)\b|game root|root of the game|spielordner|spielverzeichnis|spiele-?ordner|hauptordner|hauptverzeichnis|programmordner|installationsordner|installationsverzeichnis|carpeta (?:del juego|principal|raíz)|directorio (?:del juego|principal)|dossier (?:du jeu|principal)|répertoire (?:du jeu|principal)|racine du jeu)\b/iu;

const PLAYERS_FOLDER =
  /(?<!\p{L})(?:players?['’]?s? (?:own )?(?:folder|directory|files|settings)|(?:your|the user|user) (?:documents|folder|profile|saves?)|my (?:documents|games)|documents folder|documents(?=[\\/])|appdata|spielerordner|eigene[nr]? dateien|dokumente|carpeta del jugador|mis documentos|dossier du joueur|mes documents)(?!\p{L})/iu;

/** Of which of the two a text speaks; undefined where of none or of both. */
export function rootSpokenOf(text: string): 'program' | 'player' | undefined {
  const isPlayers = PLAYERS_FOLDER.test(text);
  if (isPlayers === PROGRAM_FOLDER.test(text)) return undefined;
  return isPlayers ? 'player' : 'program';
}

/** What systems call the folders in which games keep what is the player's: names of folders, as they are compared. */
export const PLAYERS_NAMES: ReadonlySet<string> = new Set(
  (
    'my documents,documents,my games,saved games,appdata,local,locallow,roaming,userdata,user data,.local,.config,' +
    'application support,eigene dateien,dokumente,mis documentos,documentos,mes documents'
  ).split(','),
);
