import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defaultClientConditions, defineConfig } from 'vite';

const server = `http://localhost:${process.env.API_PORT ?? 4600}`;

export default defineConfig({
  plugins: [react(), tailwindcss()],
  resolve: { conditions: ['@underpass/source', ...defaultClientConditions] },
  worker: { format: 'es' },
  build: { target: 'es2022', sourcemap: false },
  server: { proxy: { '/api': { target: server, ws: true, changeOrigin: false } } },
});
