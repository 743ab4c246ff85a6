// jsdom without what a browser really has: fetch and its kin, and sizes, without which a virtual list draws no row.
import { TestEnvironment } from 'jest-environment-jsdom';

export default class BrowserLike extends TestEnvironment {
  misfits = [];
  handleTestEvent({ name, test }) {
    // An answer that is not as the contract has it shows as nothing: what the test looks at would not be there for real.
    if (name === 'test_fn_success' && this.misfits.length > 0) test.errors.push(new Error(this.misfits.join('\n')));
    if (name === 'test_done') this.misfits = [];
    // A page goes on for a moment after its last test. What it says then reaches nobody, and would fail the whole run.
    if (name !== 'run_finish') return;
    for (const method of ['log', 'info', 'warn', 'error', 'debug']) this.global.console[method] = () => undefined;
  }
  async setup() {
    await super.setup();
    const { error } = this.global.console;
    this.global.console.error = (...said) => {
      if (String(said[0]).startsWith('An unhandled error occurred processing a request'))
        this.misfits.push(said.join(' '));
      else error.apply(this.global.console, said);
    };
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
    // jsdom knows the element and not that it opens.
    const dialogs = this.global.HTMLDialogElement.prototype;
    dialogs.showModal = function showModal() {
      this.open = true;
    };
    dialogs.close = function close() {
      this.open = false;
      this.dispatchEvent(new this.ownerDocument.defaultView.Event('close'));
    };
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
