import type { Recipe } from '@underpass/contracts';
import { portKey } from './evaluate.js';

/** A word of a shell that nothing of is read otherwise [POSIX.1-2017, Shell Command Language 2.2.2]. */
const quoted = (text: string): string => `'${text.replaceAll("'", `'\\''`)}'`;

/** What the script is made of beside what the recipe asks for; it needs a POSIX shell, awk, sed and tr alone. */
const functions = String.raw`j() { printf '"'; printf '%s' "$1" | tr -d '\000-\010\013-\037' | tr '\n' ' ' | sed 's/\\/\\\\/g; s/"/\\"/g; s/	/\\t/g' | tr -d '\n'; printf '"'; }
has() { command -v "$1" >/dev/null 2>&1; }
sep=''
next() { printf '%s' "$sep"; sep=','; }
package() {
  if has dpkg-query; then v=$(dpkg-query -W -f='${'${db:Status-Abbrev}'} ${'${Version}'}' "$1" 2>/dev/null | sed -n 's/^ii *//p')
  elif has rpm; then v=$(rpm -q --qf '%{VERSION}-%{RELEASE}' "$1" 2>/dev/null) || v=''
  elif has apk; then v=$(apk info -v "$1" 2>/dev/null | sed -n '1s/^.*-\([0-9].*\)$/\1/p')
  else return 0; fi
  next; j "$1"; printf ':'; if [ -n "$v" ]; then j "$v"; else printf null; fi
}
service() {
  enabled=null; running=null
  if has systemctl; then
    case $(systemctl is-enabled "$1" 2>/dev/null) in enabled | enabled-runtime | static | alias | generated) enabled=true ;; *) enabled=false ;; esac
    if [ -d "${'${UNDERPASS_RUN:-/run}'}/systemd/system" ]; then
      case $(systemctl is-active "$1" 2>/dev/null) in active | reloading) running=true ;; *) running=false ;; esac
    fi
  fi
  next; j "$1"; printf ':{"enabled":%s,"running":%s}' "$enabled" "$running"
}
section() {
  file=$1; name=$2; shift 2
  next; printf '{"file":'; j "$file"; printf ',"section":'; j "$name"; printf ',"state":'
  if [ ! -e "$file" ]; then printf '"no file","keys":{}}'; return 0; fi
  if [ ! -r "$file" ]; then printf '"not readable","keys":{}}'; return 0; fi
  state=$(awk -v want="$name" '
    { sub(/\r$/, ""); sub(/^\357\273\277/, ""); line = $0; off = sub(/^[ \t]*[;#]+[ \t]*/, "", line); sub(/^[ \t]+/, "", line) }
    line ~ /^\[[^]]*\]/ { at = substr(line, 2, index(line, "]") - 2); gsub(/^[ \t]+|[ \t]+$/, "", at); if (at == want) { if (off) was = 1; else is = 1 } }
    END { print is ? "on" : was ? "off" : "missing" }' "$file")
  j "$state"; printf ',"keys":{'; first=''
  for key in "$@"; do
    v=$(awk -v want="$name" -v key="$key" '
      { sub(/\r$/, ""); sub(/^\357\273\277/, ""); line = $0; sub(/^[ \t]+/, "", line) }
      line ~ /^[;#]/ { next }
      line ~ /^\[/ { at = substr(line, 2, index(line, "]") - 2); gsub(/^[ \t]+|[ \t]+$/, "", at); next }
      at == want && index(line, "=") {
        k = substr(line, 1, index(line, "=") - 1); gsub(/^[ \t]+|[ \t]*!?[ \t]*$/, "", k)
        if (k != key) next
        v = substr(line, index(line, "=") + 1)
        if (v ~ /^[ \t]*"/) { sub(/^[ \t]*"/, "", v); out = ""
          while (length(v)) { c = substr(v, 1, 1)
            if (c == "\\" && substr(v, 2, 1) ~ /["\\]/) { out = out substr(v, 2, 1); v = substr(v, 3); continue }
            if (c == "\"") break
            out = out c; v = substr(v, 2) }
          v = out
        } else { sub(/[ \t][;#].*$/, "", v); gsub(/^[ \t]+|[ \t]+$/, "", v) }
        found = "=" v
      }
      END { printf "%s", found }' "$file")
    printf '%s' "$first"; first=','; j "$key"; printf ':'
    case $v in =*) j "${'${v#=}'}" ;; *) printf null ;; esac
  done
  printf '}}'
}
port() {
  open=null; p=${'${UNDERPASS_PROC:-/proc}'}/net/$1
  if [ -r "$p" ]; then
    open=false; hex=$(printf '%04X' "$2"); if [ "$1" = tcp ]; then st=0A; else st=07; fi
    if cat "$p" "$p"6 2>/dev/null | awk -v port="$hex" -v st="$st" '
      $4 == st { split($2, a, ":"); if (a[2] == port && a[1] != "0100007F" && a[1] != "00000000000000000000000001000000") yes = 1 }
      END { exit !yes }'; then open=true; fi
  fi
  next; j "$1/$2"; printf ':%s' "$open"
}
group() {
  there=false
  if has getent; then getent group "$1" >/dev/null 2>&1 && there=true; elif grep -q "^$1:" /etc/group 2>/dev/null; then there=true; fi
  next; j "$1"; printf ':%s' "$there"
}
certificate() {
  v=''; if has openssl && [ -r "$1" ]; then v=$(openssl x509 -enddate -noout -in "$1" 2>/dev/null | sed -n 's/^notAfter=//p'); fi
  next; printf '{"file":'; j "$1"; printf ',"notAfter":'; if [ -n "$v" ]; then j "$v"; else printf null; fi; printf '}'
}`;

/** A script that prints what a host is prepared for, as a report; it reads what the recipe asks for, changes nothing and sends nothing. */
export function recipeScript(recipe: Recipe): string {
  const steps = recipe.steps;
  const unique = (list: readonly (string | undefined)[]) => [...new Set(list)].filter((each) => each !== undefined);
  const packages = unique([...recipe.needs, ...steps.map((step) => step.package)]);
  const keys = new Map<string, { file: string; section: string; keys: Set<string> }>();
  for (const { file, section, key } of steps) {
    if (file === undefined || section === undefined) continue;
    const id = `${file}\n${section}`;
    const entry = keys.get(id) ?? { file, section, keys: new Set<string>() };
    if (key !== undefined) entry.keys.add(key);
    keys.set(id, entry);
  }
  const ports = unique(steps.flatMap((step) => (step.check === 'port' ? [portKey(step)] : [])));
  const files = unique(steps.flatMap((step) => (step.check === 'certificate' ? [step.file] : [])));
  const part = (name: string, open: '{' | '[', calls: readonly string[]) => [
    `printf ',"${name}":${open}'; sep=''`,
    ...calls,
    `printf '${open === '{' ? '}' : ']'}'`,
  ];
  return [
    '#!/bin/sh',
    `# Prints what this host has of “${recipe.name.replace(/[^\w .,()-]/g, ' ')}”, as JSON. It changes nothing and sends nothing.`,
    '# Run it as root, so that it may read what it is asked for: sh script > report.json',
    'LC_ALL=C; export LC_ALL; PATH=$PATH:/usr/sbin:/sbin',
    functions,
    `printf '{"underpass":1,"at":"%s","release":' "$(date -u +%Y-%m-%dT%H:%M:%SZ)"`,
    'release=$(. "${UNDERPASS_RELEASE:-/etc/os-release}" 2>/dev/null && printf %s "${VERSION_ID-}")',
    'if [ -n "$release" ]; then j "$release"; else printf null; fi',
    ...part(
      'packages',
      '{',
      packages.map((name) => `package ${quoted(name)}`),
    ),
    ...part(
      'services',
      '{',
      unique(steps.map((step) => step.service)).map((name) => `service ${quoted(name)}`),
    ),
    ...part(
      'sections',
      '[',
      [...keys.values()].map((each) => ['section', ...[each.file, each.section, ...each.keys].map(quoted)].join(' ')),
    ),
    ...part(
      'ports',
      '{',
      ports.map((each) => `port ${each.replace('/', ' ')}`),
    ),
    ...part(
      'groups',
      '{',
      unique(steps.map((step) => step.group)).map((name) => `group ${quoted(name)}`),
    ),
    ...part(
      'certificates',
      '[',
      files.map((file) => `certificate ${quoted(file)}`),
    ),
    "printf '}\\n'",
    '',
  ].join('\n');
}
