#!/bin/sh
# Installs this checkout as a service, as root. Node 20.19 or newer, PostgreSQL's client programs and tar must be there.
set -eu
here=$(cd "$(dirname "$0")/.." && pwd)
id amigo >/dev/null 2>&1 || useradd --system --home-dir /var/lib/amigo --shell /usr/sbin/nologin amigo
mkdir -p /opt/amigo /etc/amigo
cp -R "$here/." /opt/amigo
cd /opt/amigo && npm ci --no-fund --no-audit && npm run build
[ -e /etc/amigo/settings ] || cp deploy/settings.example /etc/amigo/settings
chgrp amigo /etc/amigo/settings && chmod 640 /etc/amigo/settings
cp deploy/amigo.service /etc/systemd/system/amigo.service
systemctl daemon-reload
echo "Fill in /etc/amigo/settings, then: systemctl enable --now amigo"
