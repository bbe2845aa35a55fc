import fc from 'fast-check';

/** The same random levels in every run, so that a failure is a change; DIAL_SEED=… tries others. */
fc.configureGlobal({ seed: Number(process.env['DIAL_SEED'] ?? 20261123), endOnFailure: process.env['CI'] === 'true' });
