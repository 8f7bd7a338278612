import { constants } from 'node:zlib';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { compression, defineAlgorithm } from 'vite-plugin-compression2';

/**
 * The pages for people outside, each beginning on its own, without the frame and the places. They are built apart, so that
 * neither they nor the rest are cut into small pieces for the sake of the other.
 */
const isOutside = process.env.NP_PAGES === 'outside';

export default defineConfig({
  plugins: [
    react(),
    // Made small once here, not each time that they are fetched.
    compression({
      include: /\.(?:js|css|svg)$/,
      threshold: 1024,
      logLevel: 'silent',
      algorithms: [
        defineAlgorithm('brotliCompress', { params: { [constants.BROTLI_PARAM_QUALITY]: 9 } }),
        defineAlgorithm('gzip', { level: 9 }),
      ],
    }),
  ],
  // The list of what each part needs is read by the benchmark of what goes over the wire.
  build: {
    outDir: 'dist',
    emptyOutDir: !isOutside,
    manifest: isOutside ? '.vite/outside.json' : true,
    target: 'es2022',
    chunkSizeWarningLimit: 700,
    rollupOptions: { input: isOutside ? ['mine.html', 'apply.html'] : ['index.html'] },
  },
  worker: { format: 'es' },
  server: { proxy: { '/api': 'http://127.0.0.1:8420' } },
});
