// `npm run build`: installs and builds what is missing.
import { ensureBuilt, ensureInstalled } from './prepare.mjs';

ensureInstalled();
ensureBuilt();
