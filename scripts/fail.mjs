/** A trouble that a person can do something about: shown as one sentence, without a stack. */
export class Trouble extends Error {}

/** Runs a script's main function; a trouble ends it with its sentence and a non-zero exit. */
export async function runMain(main) {
  try {
    await main()
  } catch (error) {
    process.stderr.write(`${error instanceof Trouble ? error.message : error.stack}\n`)
    process.exitCode = 1
  }
}
