/** Reads the data of server-sent events (WHATWG HTML, section 9.2) from pieces of a stream. */
export class EventReader {
  private rest = '';

  /** The data of the events that a piece completes. */
  read(piece: string): string[] {
    this.rest += piece.replaceAll('\r\n', '\n');
    const events = this.rest.split('\n\n');
    this.rest = events.pop() ?? '';
    return events
      .map((event) =>
        event
          .split('\n')
          .filter((line) => line.startsWith('data:'))
          .map((line) => line.slice(5).replace(/^ /, ''))
          .join('\n'),
      )
      .filter((data) => data !== '');
  }
}
