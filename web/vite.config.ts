import vue from '@vitejs/plugin-vue'
import { readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { brotliCompressSync } from 'node:zlib'
import { defineConfig, type Plugin } from 'vite'
import vuetify from 'vite-plugin-vuetify'

/** Puts a brotli file beside each script and style, so that the server need not compress. */
function compressed(): Plugin {
  let assets = ''
  return {
    name: 'compressed',
    apply: 'build',
    configResolved: (config) => {
      assets = `${config.root}/${config.build.outDir}/assets`
    },
    closeBundle: () => {
      for (const file of readdirSync(assets).filter((f) => /\.(js|css|svg)$/.test(f))) {
        writeFileSync(`${assets}/${file}.br`, brotliCompressSync(readFileSync(`${assets}/${file}`)))
      }
    },
  }
}

export default defineConfig({
  plugins: [vue(), vuetify({ autoImport: true }), compressed()],
  build: { target: 'es2022', assetsInlineLimit: 0, modulePreload: { polyfill: false } },
  server: { proxy: { '/api': 'http://127.0.0.1:8640', '/healthz': 'http://127.0.0.1:8640' } },
})
