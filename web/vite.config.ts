import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

// The proxy keeps host and origin as they are, so the server's same-origin check holds in development too.
const server = `http://127.0.0.1:${process.env.LEGAME_PORT ?? 4700}`;

export default defineConfig({
  root: import.meta.dirname,
  plugins: [react(), tailwindcss()],
  server: { host: '127.0.0.1', proxy: { '/api': { target: server, changeOrigin: false } } },
  build: {
    target: 'es2022',
    chunkSizeWarningLimit: 900,
    // What is said to the library of schemas goes with it, before any schema is made.
    rolldownOptions: {
      output: { codeSplitting: { groups: [{ name: 'schemas', test: /node_modules\/zod\/|app\/schemas/ }] } },
    },
  },
});
