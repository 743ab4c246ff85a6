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
      TransformStream,
      ReadableStream,
      WritableStream,
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
    this.global.Blob.prototype.arrayBuffer ??= function () {
      return new Promise((resolve) => {
        const reader = new this.ownReader();
        reader.onload = () => resolve(reader.result);
        reader.readAsArrayBuffer(this);
      });
    };
    this.global.Blob.prototype.ownReader = this.global.FileReader;
    const prototype = this.global.HTMLElement.prototype;
    for (const name of ['offsetHeight', 'clientHeight']) Object.defineProperty(prototype, name, { get: () => 600 });
    for (const name of ['offsetWidth', 'clientWidth']) Object.defineProperty(prototype, name, { get: () => 1000 });
  }
}
