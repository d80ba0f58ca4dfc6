# Built in one stage, run in another, as nobody in particular. See docs/running.md.
FROM node:20-bookworm AS build
WORKDIR /src
COPY . .
RUN node -e "import('./scripts/workspace.mjs').then((w) => { w.install(); w.build(); })" \
  && npm prune --omit=dev

FROM node:20-bookworm-slim
ENV NODE_ENV=production HOST=0.0.0.0 PORT=4160 LOG=info
WORKDIR /app
COPY --from=build /src/node_modules ./node_modules
COPY --from=build /src/core/dist ./core/dist
COPY --from=build /src/core/package.json ./core/
COPY --from=build /src/contract/dist ./contract/dist
COPY --from=build /src/contract/package.json ./contract/
COPY --from=build /src/cycle/dist ./cycle/dist
COPY --from=build /src/cycle/package.json ./cycle/
COPY --from=build /src/server/dist ./server/dist
COPY --from=build /src/server/package.json ./server/
COPY --from=build /src/web/dist ./web/dist
COPY --from=build /src/package.json ./
RUN mkdir /data && chown node:node /data
USER node
VOLUME /data
EXPOSE 4160
HEALTHCHECK --interval=30s --timeout=5s --start-period=60s CMD node -e "process.env.NODE_TLS_REJECT_UNAUTHORIZED='0';fetch((process.env.PLAIN_HTTP==='1'?'http':'https')+'://127.0.0.1:'+process.env.PORT+'/api/v1/ready').then((r)=>process.exit(r.ok?0:1),()=>process.exit(1))"
CMD ["node", "server/dist/main.js", "--data", "/data", "--cert", "/data/tls/server.crt", "--key", "/data/tls/server.key"]
