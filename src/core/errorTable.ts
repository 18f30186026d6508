/**
 * The one table of failures. Every failure the product can report has a stable code,
 * one sentence that a player understands, and what to do next.
 * `{word}` is filled from the error's details.
 */
export const ERRORS = {
  // Reading packs
  empty: {
    says: '“{name}” is empty: it holds 0 bytes.',
    next: 'The download probably stopped before it began. Download it again and bring in the new file.',
  },
  'no-files': {
    says: '“{name}” is an archive without a single file in it.',
    next: 'Download it again. If it is empty again, ask where it is offered.',
  },
  'not-an-archive': {
    says: '“{name}” is not an archive this app can open.',
    next: 'If the page offered a ZIP, the download may be a web page saved under its name. Download it again with the page’s own button.',
  },
  unsupported: {
    says: '“{name}” is packed in a way this app cannot read yet ({why}).',
    next: 'Unpack it with another program, zip the folder, and bring in that ZIP.',
  },
  damaged: {
    says: '“{name}” is damaged: {why}.',
    next: 'Download it again. Nothing was changed; if it is damaged again, the file is broken where it is offered.',
  },
  encrypted: {
    says: '“{name}” is locked with a password.',
    next: 'Look for the password on the page it came from and type it in here.',
  },
  'wrong-password': {
    says: 'The password does not open “{name}”.',
    next: 'Check capitals and blanks, and look again on the page it came from.',
  },
  'split-volume': {
    says: '“{name}” is one part of a download that was split into several files; {missing} is not here.',
    next: 'Download all parts and bring them in together, all at once.',
  },
  'unreadable-name': {
    says: '“{name}” holds a file whose name cannot be read: it says that it is UTF-8 and is not (“{path}”).',
    next: 'Nothing was brought in. Download it again; if it is the same, tell its maker.',
  },
  'unsafe-path': {
    says: '“{name}” holds a file whose name could reach outside the game’s folders or cannot be kept on every disk: “{path}” ({why}).',
    next: 'Do not use this download. Honest packs have no such names; look for another copy or tell its maker.',
  },
  'too-large': {
    says: '“{name}” would unpack to more than this app accepts ({why}).',
    next: 'Check that the download is what it says it is. Packs like this are often made to fill a disk.',
  },
  'too-large-to-hold': {
    says: '“{path}” of “{name}” has {size}: too much to be looked at, changed or merged.',
    next: 'It is placed and deployed as it is; only this cannot be done with it.',
  },
  // Work in general
  cancelled: { says: 'Stopped, as you asked.', next: 'Everything is as it was before.' },
  'unknown-thing': {
    says: 'There is no {what} here any more.',
    next: 'Reload the page; it may have been removed in another tab.',
  },
  'bad-name': {
    says: '“{name}” cannot be the name: {why}.',
    next: 'Choose another name.',
  },
  'too-many': {
    says: 'There are {most} {what} already; more of them are not kept.',
    next: 'Remove one that you do not need any more.',
  },
  'folder-not-given': {
    says: 'It uses folders that the app was not given here: {names}.',
    next: 'Add them on the page “How this game works”, and take it in again. Nothing was changed.',
  },
  'newer-set-up': {
    says: 'What lies beside the originals was written by a newer version of this app.',
    next: 'Nothing is written over it. Use the newer version, or go on here: this browser keeps its own set-up.',
  },
  'newer-data': {
    says: 'A newer version of this app wrote {what}.',
    next: 'This version would not understand all of it, so it reads and writes nothing there. Start the newer version, as you did last, and go on with it.',
  },
  'bad-memory': {
    says: 'Something this app had remembered ({what}) could not be read.',
    next: 'It was set aside and nothing in a game folder was touched. Set that part up again.',
  },
  unexpected: {
    says: 'Something went wrong that this app did not expect: {why}.',
    next: 'Nothing more was changed. Reload the page: it will finish or take back what it was doing.',
  },
  'bad-card': {
    says: 'This game card cannot be used: {why}.',
    next: 'The card that was there stays. Mend that place and try again; /game-card.schema.json describes every part.',
  },
  'no-room': {
    says: 'There is not enough room in the browser’s storage for “{name}”: it needs {needed}, and {left} are left.',
    next: 'Nothing was brought in. Let packs go that nothing needs (“What takes how much room” in the games menu), or free space on the disk the browser keeps its data on.',
  },
  // Folders
  'folder-missing-file': {
    says: 'The file “{path}” is not in the folder.',
    next: 'It may have been moved or deleted by another program. Look at the plan again.',
  },
  'folder-gone': {
    says: 'The folder “{path}” is not there.',
    next: 'It may have been moved or renamed, or lie on a disk that is not connected. Bring it back to its place; nothing in it was touched.',
  },
  'folder-refused': {
    says: 'The folder did not let the app use “{path}” ({why}).',
    next: 'Close the game and any program that uses the file, check that it is not read-only, and try again.',
  },
  'folder-permission': {
    says: 'The browser needs your permission again to use the folder “{name}”.',
    next: 'Choose “Allow this folder” and confirm in the browser.',
  },
  'bridge-closed': {
    says: 'This browser may not use the folders that the app was started with.',
    next: 'Open the address that was printed in the window where you started the app; it holds a key that is new with each start.',
  },
  'not-ours': {
    says: 'The app’s own server refused a request ({why}).',
    next: 'Use the app by the address that was printed where you started it.',
  },
  'bad-request': {
    says: 'The app’s own server could not make sense of what the page asked ({why}).',
    next: 'Reload the page: it may be from another version of the app.',
  },
  'server-gone': {
    says: 'The app’s own server does not answer.',
    next: 'It was stopped, or its window was closed. Start it again with “npm start”; this page notices when it is back. What you typed is kept.',
  },
  'folder-twice': {
    says: '“{name}” lies inside a folder that this game has already, or holds one of them.',
    next: 'It needs no place of its own: what is in it belongs to that folder. Choose another one.',
  },
  'folder-in-use': {
    says: 'The game “{name}” uses this folder.',
    next: 'Put everything back and take the game out of the app first.',
  },
  'whole-disk': {
    says: '“{name}” is no game’s own folder: everything on the disk, or all that is yours, lies in it.',
    next: 'Choose the folder inside it in which the game is installed.',
  },
  'no-dialog': {
    says: 'This computer’s own folder dialog could not be opened ({why}).',
    next: 'Start the app with the folder instead: npm start -- --folder "<the game’s folder>". Or choose it through the browser, where that offers it.',
  },
  'dialog-open': {
    says: 'A folder dialog is open already.',
    next: 'It may lie behind this window. Choose a folder in it, or close it.',
  },
  'downloads-in-game': {
    says: '“{name}” lies inside a game’s folder or where the app keeps originals.',
    next: 'Choose the folder that your browser saves downloads in.',
  },
  'needs-copy': {
    says: '“{name}” lies on another disk than the game’s originals, so it would have to be copied there ({size}).',
    next: 'Agree to the copy, or move the download to the same disk.',
  },
  'still-coming': {
    says: '“{name}” is still being written.',
    next: 'Wait until the download is complete, then take it.',
  },
  'backup-in-game': {
    says: '“{name}” lies inside the game’s own folder, where the game or its updater could delete it.',
    next: 'Choose a folder that has nothing to do with the game, on another disk if you have one.',
  },
  // Deploying
  'changed-since-plan': {
    says: '“{path}” was changed by another program after the plan was made.',
    next: 'Nothing was written. The plan has been made again; look it over and deploy.',
  },
  'changed-meanwhile': {
    says: '“{path}” was changed by another program in the very moment it was to be replaced.',
    next: 'It was left as that program wrote it. Close the program, look at the plan again and deploy.',
  },
  'original-not-kept': {
    says: 'A copy of “{path}” could not be kept safely, so it was not touched.',
    next: 'Nothing was written. Make sure that there is room where the originals are kept (the ledger says where), and try again.',
  },
  'original-lost': {
    says: 'The kept original of “{path}” is damaged, and there is no good copy of it.',
    next: 'Leave this file as it is; all others go back. Take it from the game’s installer or its own repair.',
  },
  'not-begun': {
    says: 'The deployment did not begin ({why}).',
    next: 'Nothing was written. Mend the cause and deploy again; reload the page if it happens twice.',
  },
  'not-landed': {
    says: '“{path}” did not read back the way it was written.',
    next: 'Everything was put back as it was. The disk may be full or failing.',
  },
  'taken-back': {
    says: 'The deployment could not be finished ({why}), so everything{but} was put back as it was.',
    next: 'Mend the cause, then deploy again.',
  },
  'left-open': {
    says: 'The deployment stopped half-way ({why}) and could not be put back at once.',
    next: 'The originals are safe. Reload the page: putting back is tried again at the start.',
  },
  'no-room-to-deploy': {
    says: 'There is not enough room on {disk}: this deployment needs up to {needed} (every original is kept first), and {left} are left.',
    next: 'Nothing was written. Free some space there, or switch a pack off, and deploy again.',
  },
  'journal-open': {
    says: 'An earlier deployment has not been closed yet.',
    next: 'Reload the page: it is finished or taken back at the start.',
  },
  'vault-locked': {
    says: 'Another copy of this app is at work with this game’s originals.',
    next: 'Close it, or wait until it is done. If it was ended, its lock opens by itself within half a minute.',
  },
  'source-missing': {
    says: 'The pack “{name}” that holds “{path}” is not here any more.',
    next: 'Bring the pack in again, or take it out of the stack.',
  },
  'bad-target': {
    says: '“{path}” cannot be a place in this game ({why}).',
    next: 'Choose one of the game’s folders from the list, or type a folder below it.',
  },
  'still-deployed': {
    says: 'Packs are still in the folders of “{name}”.',
    next: 'Put everything back first, so that the originals are where they belong; then remove the game.',
  },
  'read-only-tab': {
    says: 'This game is open in another tab, so this tab can only look.',
    next: 'Go on in the other tab, or close it and reload this one.',
  },
  'archive-too-large': {
    says: '“{path}” is too large to be changed from inside.',
    next: 'It was left alone. Put the files in with another program.',
  },
  // The stack
  'order-cycle': {
    says: 'These packs cannot lie in this order: {names}. Each would have to lie below the next, and the last below the first.',
    next: 'Nothing was changed. Take one of the rules between them away.',
  },
  'cannot-merge': {
    says: '“{path}” cannot be merged: {why}.',
    next: 'Nothing was changed. Choose which pack’s file is used instead.',
  },
  // Backups
  'bad-bag': {
    says: '“{name}” cannot be trusted: {why}.',
    next: 'Nothing was taken in. Use another copy of it; one that was changed or cut off is not safe to use.',
  },
  'bag-not-needed': {
    says: 'This app has originals of this game of its own, so the backup was not taken in.',
    next: 'Put everything back first if you want to use the backup instead.',
  },
  // Settings
  'bad-value': {
    says: '“{value}” cannot be a value in this file: {why}.',
    next: 'Nothing was changed. Write the value on one line.',
  },
  'not-text': {
    says: '“{path}” cannot be edited as text ({why}).',
    next: 'It was left alone. Open it in the program it belongs to.',
  },
} as const satisfies Record<string, { says: string; next: string }>;
