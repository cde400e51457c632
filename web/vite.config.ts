import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

// Everything the page loads comes from /static, served by the application itself.
export default defineConfig({
  plugins: [react(), tailwindcss()],
  base: '/static/',
  build: { outDir: 'dist/static', emptyOutDir: true, assetsInlineLimit: 0, chunkSizeWarningLimit: 700 },
  server: { proxy: { '/api': 'http://127.0.0.1:8000' } },
})
