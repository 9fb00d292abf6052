import type { FromPage, ToPage } from '@underpass/contracts';

/** The check's WebSocket: typed messages, and round trips over it. */
export class CheckSocket {
  private readonly socket: WebSocket;
  private readonly waiting = new Map<number, (at: number) => void>();
  private readonly listeners = new Set<(message: ToPage) => void>();
  private n = 0;
  onClosed: () => void = () => undefined;

  private constructor(socket: WebSocket) {
    this.socket = socket;
    socket.onmessage = ({ data }) => {
      const at = performance.now();
      const message = JSON.parse(String(data)) as ToPage;
      if (message.type === 'pong') {
        this.waiting.get(message.n)?.(at);
        this.waiting.delete(message.n);
      } else for (const listener of this.listeners) listener(message);
    };
    socket.onclose = () => this.onClosed();
  }

  static open(token: string): Promise<CheckSocket> {
    const socket = new WebSocket(`${location.protocol === 'https:' ? 'wss' : 'ws'}://${location.host}/api/check/${token}/ws`);
    return new Promise((resolve, reject) => {
      socket.onopen = () => resolve(new CheckSocket(socket));
      socket.onerror = () => reject(new Error('The connection could not be opened.'));
    });
  }

  send(message: FromPage): void {
    if (this.socket.readyState === WebSocket.OPEN) this.socket.send(JSON.stringify(message));
  }

  listen(listener: (message: ToPage) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** The next message of a type. */
  next<T extends ToPage['type']>(type: T, timeoutMs: number): Promise<Extract<ToPage, { type: T }> | null> {
    return new Promise((resolve) => {
      const timer = setTimeout(() => {
        stop();
        resolve(null);
      }, timeoutMs);
      const stop = this.listen((message) => {
        if (message.type !== type) return;
        clearTimeout(timer);
        stop();
        resolve(message as Extract<ToPage, { type: T }>);
      });
    });
  }

  /** One round trip in ms; null where no answer came in time. */
  ping(timeoutMs = 3000): Promise<number | null> {
    const n = this.n++;
    return new Promise((resolve) => {
      const sent = performance.now();
      const timer = setTimeout(() => {
        this.waiting.delete(n);
        resolve(null);
      }, timeoutMs);
      this.waiting.set(n, (at) => {
        clearTimeout(timer);
        resolve(at - sent);
      });
      this.send({ type: 'ping', n });
    });
  }

  close(): void {
    this.onClosed = () => undefined;
    this.socket.close();
  }
}
