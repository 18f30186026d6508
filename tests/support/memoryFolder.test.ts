import { describe, it } from 'vitest';
import { FOLDER_CONTRACT } from './folderContract';
import { MemoryFolder } from './memoryFolder';

describe('the memory folder keeps the contract', () => {
  for (const { name, run } of FOLDER_CONTRACT) it(name, () => run(new MemoryFolder()));
});
