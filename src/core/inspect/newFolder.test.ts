import { describe, expect, it } from 'vitest';
import { newFolderNamed } from './newFolder';

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
