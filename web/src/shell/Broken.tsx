import { Component, type ReactNode } from 'react'
import { NotLoaded } from '../pages'
import { Button } from '../ui/basics'

/** A page that met an answer it did not expect says so and shows a way back; it is never white. */
export class Broken extends Component<{ children: ReactNode; at: string }, { error: Error | null; at: string }> {
  override state = { error: null as Error | null, at: this.props.at }

  static getDerivedStateFromError(error: Error) {
    return { error }
  }

  static getDerivedStateFromProps(props: { at: string }, state: { error: Error | null; at: string }) {
    return props.at === state.at ? null : { error: null, at: props.at }
  }

  override render() {
    if (!this.state.error) return this.props.children
    if (this.state.error instanceof NotLoaded)
      return (
        <main className="flex-1 p-6">
          <h1>This page has not come yet</h1>
          <p className="mt-1">
            It was not opened before, and the server does not answer or was renewed. What was typed is safe: load it
            again when the link is back.
          </p>
          <p className="mt-3">
            <Button kind="main" data-main-action onClick={() => location.reload()}>
              Load it again
            </Button>
          </p>
        </main>
      )
    return (
      <main className="flex-1 p-6">
        <h1>This page could not be shown</h1>
        <p className="mt-1">
          What was typed is safe. The page met something it did not expect: {this.state.error.message.slice(0, 200)}
        </p>
        <p className="mt-3 flex gap-2">
          <Button kind="main" onClick={() => this.setState({ error: null })}>
            Try it again
          </Button>
          <a className="underline" href="/jobs">
            to the jobs
          </a>
        </p>
      </main>
    )
  }
}
