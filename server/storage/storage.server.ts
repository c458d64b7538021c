import { join } from 'node:path';
import { config } from '../config.server';
import type { FileStorage } from './file-storage';
import { LocalStorage } from './local-storage';

/** The store of this installation. */
export const storage: FileStorage = new LocalStorage(join(config.dataDir, 'files'));
