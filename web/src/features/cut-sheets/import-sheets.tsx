import type { CutSheetImportReport } from '@fleam/contract/cut-sheets'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { send } from '../../api/http.ts'
import { cutSheetsQuery } from '../../api/queries.ts'
import { counted } from '../../ui/counted.ts'
import { ImportProblems } from '../../ui/import-problems.tsx'
import { Caution, Warning } from '../../ui/notes.tsx'
import { useChange } from '../../ui/use-change.ts'

/** Reads a file of cut sheets: says first what is in it, then adds all of it or nothing. */
export function ImportSheets() {
  const queryClient = useQueryClient()
  const [text, setText] = useState<string>()
  const [report, setReport] = useState<CutSheetImportReport>()
  const { change, trouble } = useChange({
    send: (request: { text: string; preview: boolean }) => send<CutSheetImportReport>('POST', '/cut-sheet-imports', request),
  })

  async function read(content: string, preview: boolean) {
    const found = await change({ text: content, preview })
    setReport(found)
    if (!found) return
    setText(preview ? content : undefined)
    if (found.written) await queryClient.invalidateQueries({ queryKey: cutSheetsQuery.queryKey })
  }

  return (
    <>
      <label className="btn btn-plain file-button">
        Read in a file
        <input
          type="file"
          accept="application/json,.json"
          className="visually-hidden"
          onChange={async (event) => {
            const [file] = event.target.files ?? []
            event.target.value = ''
            if (file) await read(await file.text(), true)
          }}
        />
      </label>
      {trouble && <Warning>{trouble}</Warning>}
      {report && (
        <Caution>
          {report.problems.length > 0 && <ImportProblems problems={report.problems} />}
          {report.written && <p>Added: {report.added.join(', ')}.</p>}
          {!report.written && report.problems.length === 0 && (
            <>
              <p>{report.added.length > 0 ? `New here: ${report.added.join(', ')}.` : 'Every sheet in it is here already.'}</p>
              {report.alreadyHere.length > 0 && <p>{counted(report.alreadyHere.length, 'says', 'say')} what sheets here say already.</p>}
              {report.added.length > 0 && text !== undefined && (
                <Button variant="act" onClick={() => read(text, false)}>
                  Add {report.added.length === 1 ? 'it' : `all ${report.added.length}`}
                </Button>
              )}
            </>
          )}
        </Caution>
      )}
    </>
  )
}
