document.body.textContent='x'; export {};
