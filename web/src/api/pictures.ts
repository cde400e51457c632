/**
 * Photographs on their way: each lies in the browser's own database until the server has it, bound to whoever took it. A
 * reload or a lost link loses none, and one that is sent twice is kept once, since its id is made here.
 */
import { Refused, upload, type Problem, type Schemas } from './client'

export type Picture = {
  uid: string
  job: number
  step: string
  by: string
  name: string
  at: number
  data: Blob
  problem?: Problem
}

/** Where pictures lie. Another one stands in for it in tests. */
export interface Store {
  all(): Promise<Picture[]>
  put(picture: Picture): Promise<void>
  remove(uid: string): Promise<void>
}

const RETRY_MS = 4000
const BAD = new Set([400, 403, 404, 413, 422])

export class Pictures {
  person = ''
  private waiting: readonly Picture[] = []
  private sendingUid = ''
  private readonly listeners = new Set<() => void>()
  private running: Promise<void> | null = null
  private timer: ReturnType<typeof setTimeout> | undefined

  constructor(
    private readonly store: Store,
    private readonly send: (picture: Picture) => Promise<unknown>,
    private readonly taken: (job: number) => void,
  ) {}

  subscribe = (listener: () => void) => {
    this.listeners.add(listener)
    return () => void this.listeners.delete(listener)
  }
  /** What waits, of whoever is here. The same list until it changes. */
  list = () => this.waiting
  sending = () => this.sendingUid

  async signedIn(name: string) {
    this.person = name
    await this.look()
    void this.go()
  }

  /** Keep pictures, and send them as soon as it goes. Raises what the browser's store says where it has no room. */
  async take(job: number, step: string, files: readonly File[]) {
    for (const [n, file] of files.entries()) {
      const uid = hex()
      const at = Date.now() + n / 1000
      await this.store.put({ uid, job, step, by: this.person, name: file.name, at, data: file })
    }
    await this.look()
    void this.go()
  }

  /** Leave one that was refused. */
  async drop(uid: string) {
    await this.store.remove(uid)
    await this.look()
  }

  private async look() {
    const all = await this.store.all()
    this.waiting = all.filter((p) => p.by === this.person).sort((a, b) => a.at - b.at)
    this.listeners.forEach((l) => l())
  }

  go(): Promise<void> {
    this.running ??= this.each().finally(() => (this.running = null))
    return this.running
  }

  private async each() {
    clearTimeout(this.timer)
    const next = () => this.waiting.find((p) => !p.problem)
    for (let picture = next(); picture && this.person; picture = next()) {
      this.sendingUid = picture.uid
      this.listeners.forEach((l) => l())
      try {
        await this.send(picture)
        await this.store.remove(picture.uid)
        this.taken(picture.job)
      } catch (error) {
        if (!(error instanceof Refused) || !BAD.has(error.status)) {
          this.timer = setTimeout(() => void this.go(), RETRY_MS) // no line, no room, nobody signed in: it waits
          return this.rest()
        }
        await this.store.put({ ...picture, problem: error.problem })
      }
      await this.look()
    }
    this.rest()
  }

  private rest() {
    this.sendingUid = ''
    this.listeners.forEach((l) => l())
  }
}

/** Thirty-two hexadecimal digits, as the server names its files. */
export const hex = () =>
  Array.from(crypto.getRandomValues(new Uint8Array(16)), (b) => b.toString(16).padStart(2, '0')).join('')

const SHELF = 'pictures'

function database(): Promise<IDBDatabase> {
  return new Promise((done, fail) => {
    const asked = indexedDB.open('insertum', 1)
    asked.onupgradeneeded = () => asked.result.createObjectStore(SHELF, { keyPath: 'uid' })
    asked.onsuccess = () => done(asked.result)
    asked.onerror = () => fail(asked.error ?? new Error('the browser keeps nothing'))
  })
}

async function within<T>(mode: IDBTransactionMode, ask: (shelf: IDBObjectStore) => IDBRequest<T>): Promise<T> {
  const db = await database()
  try {
    return await new Promise<T>((done, fail) => {
      const transaction = db.transaction(SHELF, mode)
      const asked = ask(transaction.objectStore(SHELF))
      transaction.oncomplete = () => done(asked.result)
      transaction.onerror = transaction.onabort = () => fail(transaction.error ?? new Error('the browser has no room'))
    })
  } finally {
    db.close()
  }
}

const inBrowser: Store = {
  all: () => within('readonly', (s) => s.getAll() as IDBRequest<Picture[]>),
  put: async (p) => void (await within('readwrite', (s) => s.put(p))),
  remove: async (uid) => void (await within('readwrite', (s) => s.delete(uid))),
}

const kept = new Set<(job: number) => void>()
/** Told when the server has another photograph of a job. */
export const onPicture = (listener: (job: number) => void) => {
  kept.add(listener)
  return () => void kept.delete(listener)
}

export const pictures = new Pictures(
  inBrowser,
  ({ job, step, uid, data, name, by }) =>
    upload<Schemas['Taken']>(`/api/jobs/${job}/photographs`, data, name, { step, uid, by }),
  (job) => kept.forEach((l) => l(job)),
)
