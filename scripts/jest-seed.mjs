// Random inputs of properties are the same in every run, so that a change is judged by what it changed: SEED takes
// others, and `npm run soak` takes new ones each time.
import fc from "fast-check";

fc.configureGlobal({ ...fc.readConfigureGlobal(), seed: Number(process.env.SEED ?? 20261127) });
