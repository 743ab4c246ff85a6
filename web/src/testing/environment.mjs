// jsdom without what a browser really has: fetch and its kin, and sizes, without which a virtual list draws no row.
import { TestEnvironment } from 'jest-environment-jsdom';

export default class BrowserLike extends TestEnvironment {
  async setup() {
    await super.setup();
    Object.assign(this.global, {
      fetch,
      Request,
      Response,
      Headers,
      AbortController,
      AbortSignal,
      TextEncoder,
      TextDecoder,
    });
    this.global.ResizeObserver = class {
      observe() {}
      unobserve() {}
      disconnect() {}
    };
    this.global.EventSource = class {
      addEventListener() {}
      close() {}
    };
    const prototype = this.global.HTMLElement.prototype;
    Object.defineProperty(prototype, 'offsetHeight', { get: () => 600 });
    Object.defineProperty(prototype, 'offsetWidth', { get: () => 1000 });
  }
}
