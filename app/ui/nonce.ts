import { createContext } from 'react';

/** What lets a page's own scripts run; known to the server only. */
export const NonceContext = createContext<string | undefined>(undefined);
