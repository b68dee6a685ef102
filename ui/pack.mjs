// Lays a brotli and a gzip copy beside every text file of the build, so that nothing is packed while a page waits.
import { readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { brotliCompressSync, constants, gzipSync } from 'node:zlib'

for (const e of readdirSync('dist', { recursive: true, withFileTypes: true })) {
  if (!e.isFile() || !/\.(js|css|html|svg|json|webmanifest)$/.test(e.name)) continue
  const path = join(e.parentPath, e.name)
  const body = readFileSync(path)
  if (body.length < 1000) continue
  writeFileSync(`${path}.br`, brotliCompressSync(body, { params: { [constants.BROTLI_PARAM_QUALITY]: 11 } }))
  writeFileSync(`${path}.gz`, gzipSync(body, { level: 9 }))
}
