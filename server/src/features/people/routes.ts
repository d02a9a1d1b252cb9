import { person, personChange, personCreate } from '@fleam/contract/people'
import { pageOf, pageQuery } from '@fleam/contract/primitives'
import { signedIn } from '../../http/access.ts'
import { nameCursor, pageFrom, readCursor } from '../../http/paging.ts'
import { idParams, type Routes } from '../routes.ts'
import { changePerson, createPerson, listPeople } from './service.ts'

export const peopleRoutes: Routes = (app, { attempts }) => {
  app.get(
    '/api/v1/people',
    { config: { access: 'cook' }, schema: { querystring: pageQuery, response: { 200: pageOf(person) } } },
    async (request) => {
      const { cursor, limit } = request.query
      const after = readCursor(cursor, nameCursor)?.after ?? ''
      const people = await listPeople(signedIn(request).records, after, limit + 1)
      return pageFrom(
        people,
        limit,
        (entry) => entry,
        (entry) => ({ after: entry.name, id: entry.id }),
      )
    },
  )
  app.post(
    '/api/v1/people',
    { config: { access: 'manager' }, schema: { body: personCreate, response: { 201: person } } },
    async (request, reply) => reply.code(201).send(await createPerson(signedIn(request), request.body)),
  )
  app.put(
    '/api/v1/people/:id',
    { config: { access: 'manager' }, schema: { params: idParams, body: personChange, response: { 200: person } } },
    async (request) => changePerson(attempts, signedIn(request), request.params.id, request.body, request.ip),
  )
}
