# Azalea in a container. Data lie in /data.
FROM node:20.20-bookworm-slim AS built
WORKDIR /azalea
COPY package.json package-lock.json .npmrc ./
RUN npm ci
COPY . .
RUN npm run build

FROM node:20.20-bookworm-slim
# What decodes AAC, the sound of most films and of many bought songs, asks for it.
RUN apt-get update && apt-get install -y --no-install-recommends libasound2 && rm -rf /var/lib/apt/lists/*
WORKDIR /azalea
COPY --from=built --chown=node:node /azalea /azalea
RUN mkdir /data && chown node:node /data
USER node
ENV AZALEA_DATA=/data AZALEA_HOST=0.0.0.0 PORT=3000 NODE_ENV=production NEXT_TELEMETRY_DISABLED=1
VOLUME /data
EXPOSE 3000
HEALTHCHECK CMD node -e "fetch('http://localhost:3000/api/health').then((r) => process.exit(r.ok ? 0 : 1), () => process.exit(1))"
CMD ["npm", "start"]
