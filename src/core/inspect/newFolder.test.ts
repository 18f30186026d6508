import { describe, expect, it } from 'vitest';
import { folderToMake, newFolderNamed } from './newFolder';

describe('a folder that a read-me says to make', () => {
  it.each<[before: string, behind: string, name: string | undefined]>([
    ['Create a folder called ~extra in ', ' and put it there.', '~extra'],
    ['Make a directory named "My skins" inside the ', '.', 'My skins'],
    ['Create a skins folder in ', '', 'skins'],
    ['Add the folder extra in ', '', 'extra'],
    ['In ', ', create a new folder called "_first". Put it inside.', '_first'],
    ['Lege im Ordner ', ' einen Ordner neu_1 an', 'neu_1'],
    ['En ', ' crea una carpeta llamada barcos', 'barcos'],
    ['Dans ', ', créez un nouveau dossier bateaux', 'bateaux'],
    ['The folder named kites has to be inside ', '.', 'kites'],
    ['Der Ordner namens drachen kommt in ', '.', 'drachen'],
    ['Create a new folder in ', ' for it.', undefined],
    ['Put the folder boats in ', '.', undefined],
    ['Copy the files into ', ', then create a backup.', undefined],
  ])('%s…%s', (before, behind, name) => {
    expect(newFolderNamed(before, behind)).toBe(name);
  });
});

describe('a folder that is a place and has to be made first', () => {
  it.each<[text: string, next: string, name: string | undefined]>([
    ['Put glow into mods.', 'Make it if there is none.', 'mods'],
    ['The game looks for lamps in "mods", which you have to make.', '', 'mods'],
    ['They are looked for in the folder mods.', 'Create the folder if you have none.', 'mods'],
    ['Kommt in den Ordner mods.', 'Lege ihn an, wenn er fehlt.', 'mods'],
    // Nothing says that it is to be made.
    ['Put glow into mods.', 'Start the game.', undefined],
    // What the game has is no new folder, and of two neither is meant.
    ['Put glow into lamps.', 'Make it bright.', undefined],
    ['Put glow into mods and shade into more.', 'Make the folder.', undefined],
    ['Make it glow in game.ini.', '', undefined],
  ])('%s %s', (text, next, name) => {
    const found = folderToMake(text, next, (one) => one === 'lamps');
    expect(found?.name).toBe(name);
    expect(found && text.slice(found.start, found.end)).toBe(name);
  });
});
