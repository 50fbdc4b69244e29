#!/bin/sh
# Installs this checkout as a service, as root. Node 20.19 or newer, PostgreSQL's client programs and tar must be there.
# It is built beside the one that runs, so that this goes on until it is started again.
set -eu
here=$(cd "$(dirname "$0")/.." && pwd)
id amigo >/dev/null 2>&1 || useradd --system --home-dir /var/lib/amigo --shell /usr/sbin/nologin amigo
rm -rf /opt/amigo.new && mkdir -p /opt/amigo.new /opt/amigo /etc/amigo && cp -R "$here/." /opt/amigo.new
(cd /opt/amigo.new && npm run build)
rm -rf /opt/amigo.before && mv /opt/amigo /opt/amigo.before && mv /opt/amigo.new /opt/amigo
[ -e /etc/amigo/settings ] || cp /opt/amigo/deploy/settings.example /etc/amigo/settings
chgrp amigo /etc/amigo/settings && chmod 640 /etc/amigo/settings
cp /opt/amigo/deploy/amigo.service /etc/systemd/system/amigo.service
systemctl daemon-reload
echo "Fill in /etc/amigo/settings, then: systemctl enable --now amigo"
