// `npm start`: installs and builds what is missing, then starts the server, which prints its address.
import { spawn } from 'node:child_process';
import { ensureBuilt, ensureInstalled, root } from './prepare.mjs';

ensureInstalled();
ensureBuilt();
const server = spawn(process.execPath, ['server/dist/main.js'], { cwd: root, stdio: 'inherit' });
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));
