import { Link } from 'react-router'
import { Empty } from '../ui/notes.tsx'

export function Page() {
  return (
    <main className="page">
      <section className="sheet">
        <Empty isPage title="There is no such page.">
          <Link to="/">To your first page</Link>
        </Empty>
      </section>
    </main>
  )
}
