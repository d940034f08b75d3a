#!/usr/bin/env bash
# Private PostgreSQL cluster on loopback: pg.sh start|stop|status|url|app-url|destroy [DIR]
# Works as root (drops to the 'postgres' system user) and as an ordinary user. Password authentication; the passwords lie in DIR/secret
# and DIR/secret-app, readable by their owner only. `start` and `url` print the address of the owner, who migrates, backs up and restores;
# `app-url` that of the role the program works under, which may not change what is a record (store/grants.ts).
set -euo pipefail
cmd=${1:-status}
root=$(cd "$(dirname "$0")/.." && pwd)
dir=${2:-$root/.data/postgres}
db=sarta
role=sarta
app_role=sarta_app
bin=${PG_BIN:-$(ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -1)}
[ -x "$bin/initdb" ] || { echo "PostgreSQL server not found. Debian: apt-get install postgresql" >&2; exit 1; }

mkdir -p "$dir"
dir=$(cd "$dir" && pwd)
secret=$dir/secret
app_secret=$dir/secret-app
home=$dir
# initdb and postgres refuse to run as root. An ordinary user runs them as is.
if [ "$(id -u)" = 0 ]; then
	owner=postgres
	# cd / : the postgres user may not be able to enter the caller's folder
	as() { (cd / && runuser -u postgres -- "$@"); }
	# the postgres user must be able to reach DIR; if not, the data goes elsewhere and DIR keeps the secret only
	if ! as test -x "$dir"; then home=/var/tmp/sarta-pg-$(printf %s "$dir" | sha1sum | cut -c1-12); fi
	mkdir -p "$home/cluster"
	chown postgres: "$home/cluster"
else
	owner=$(id -un)
	as() { "$@"; }
	mkdir -p "$home/cluster"
fi
chmod 700 "$home/cluster"
data=$home/cluster/data
log=$home/cluster/log

free_port() {
	local p
	for _ in $(seq 50); do
		p=$((20000 + RANDOM % 20000))
		(exec 3<>"/dev/tcp/127.0.0.1/$p") 2>/dev/null || { echo "$p"; return; }
	done
	echo "no free port for PostgreSQL" >&2; return 1
}
# a process of ours that answers: a stale file after a hard kill is no running server, and a server that does not answer is none either
running() { as "$bin/pg_ctl" -D "$data" status >/dev/null 2>&1 && "$bin/pg_isready" -q -h 127.0.0.1 -p "$(port)" -t 10; }
port() { as sed -n 4p "$data/postmaster.pid"; }
url() { echo "postgres://$role:$(cat "$secret")@127.0.0.1:$(port)/$db"; }
app_url() { echo "postgres://$app_role:$(cat "$app_secret")@127.0.0.1:$(port)/$db"; }
password() { od -An -N24 -tx1 /dev/urandom | tr -d ' \n'; }

case $cmd in
start)
	if ! as test -f "$data/PG_VERSION"; then
		(umask 077; password >"$secret")
		# initdb reads the password from a file its own user can read; the file is gone again at once
		pw=$(as mktemp)
		as sh -c 'cat >"$1"' sh "$pw" <"$secret"
		as "$bin/initdb" -D "$data" -E UTF8 --locale=C.UTF-8 -A scram-sha-256 -U "$role" --pwfile="$pw" --no-instructions >/dev/null
		as rm -f "$pw"
	fi
	[ -s "$app_secret" ] || (umask 077; password >"$app_secret")
	if ! running; then
		# one that hangs is ended first; its data is safe, it is what a power cut would do
		as "$bin/pg_ctl" -D "$data" status >/dev/null 2>&1 && as "$bin/pg_ctl" -D "$data" -w -t 20 -m immediate stop >/dev/null
		for try in 1 2 3; do # another process may take the port in between
			p=${PG_PORT:-$(free_port)}
			as "$bin/pg_ctl" -D "$data" -w -t 60 -l "$log" \
				-o "-p $p -c listen_addresses=127.0.0.1 -c unix_socket_directories= ${PG_OPTS:-}" start >/dev/null && break
			[ "$try" = 3 ] && { as tail -5 "$log" >&2; exit 1; }
		done
	fi
	export PGPASSWORD; PGPASSWORD=$(cat "$secret")
	"$bin/psql" -qAtX -h 127.0.0.1 -p "$(port)" -U "$role" -d postgres -c "select 1 from pg_database where datname='$db'" | grep -q 1 ||
		"$bin/createdb" -h 127.0.0.1 -p "$(port)" -U "$role" "$db"
	"$bin/psql" -qAtX -h 127.0.0.1 -p "$(port)" -U "$role" -d "$db" -v ON_ERROR_STOP=1 >/dev/null <<-SQL
		select 'create role $app_role login' where not exists (select from pg_roles where rolname = '$app_role') \gexec
		alter role $app_role password '$(cat "$app_secret")' nosuperuser nocreaterole nocreatedb;
	SQL
	url ;;
stop) if running; then as "$bin/pg_ctl" -D "$data" -w -m fast stop >/dev/null; fi ;;
status) if running; then echo "running on port $(port)"; else echo stopped; exit 3; fi ;;
url) url ;;
app-url) app_url ;;
destroy) "$0" stop "$dir"; rm -rf "$dir" "$home" ;;
*) echo "use: pg.sh start|stop|status|url|app-url|destroy [DIR]" >&2; exit 2 ;;
esac
