import fc from "fast-check";

/** Property tests draw the same cases in every run, so that a failure repeats; ESTIMA_SEED draws others. */
fc.configureGlobal({ seed: Number(process.env.ESTIMA_SEED ?? 20_261_126) });

// What the program logs is not a test's output.
process.env.LOG_LEVEL ??= "silent";
