interface Problem {
  path: string
  line: number
  column: number
  message: string
}

/** What of a file cannot be read, each with its place. */
export function ImportProblems({ problems }: { problems: readonly Problem[] }) {
  return (
    <>
      <p>Nothing was written. Put this right in the file first:</p>
      <ul>
        {problems.map((problem) => (
          <li key={`${problem.line}:${problem.column}:${problem.path}${problem.message}`}>
            Line {problem.line}, column {problem.column}
            {problem.path && ` (${problem.path})`}: {problem.message}
          </li>
        ))}
      </ul>
    </>
  )
}
