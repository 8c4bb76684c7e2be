/**
 * Loaded before the tests of `npm test`: what they make up is the same each time, so that a run says something of the
 * change and not of its luck. `npm run long` leaves this out, and makes up something else each time.
 */
import fc from 'fast-check';

fc.configureGlobal({ seed: 20261127 });
