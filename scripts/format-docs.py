#!/usr/bin/env python3
"""Writes the tables of docs/job-format.md from what `burin-cli format` says is kept; with --check it
only fails where they differ."""
import json
import pathlib
import subprocess
import sys

root = pathlib.Path(__file__).resolve().parent.parent
cli = root / "build" / "release" / "bin" / "burin-cli"
form = json.loads(subprocess.run([cli, "format"], capture_output=True, text=True, check=True).stdout)


def number(value):
    return f"{value:,.0f}" if value == int(value) else f"{value:g}"


def takes(field):
    text = field["shape"]
    if "words" in field:
        text = ", ".join(field["words"])
    elif "least" in field:
        text = f'{"whole, " if field["shape"] == "whole" else ""}{number(field["least"])} to {number(field["most"])}'
    elif "longest" in field and "refers" not in field and field["name"] != "id":
        text = f'text, to {field["longest"]}'
    elif "inner" in field:
        inner = ", ".join(f'`{one["name"]}` ({takes(one)})' for one in field["inner"])
        text = f'{"list of objects" if field["shape"] == "list" else "object"}: {inner}'
    elif "owns" in field:
        text = f'rows of `{field["owns"]}`'
    if "refers" in field:
        text = f'id of a {field["refers"]}; when that goes: {field["whenItGoes"]}'
    return text


lines = []
for kind in form["kinds"]:
    head = f'**{kind["kind"]}** — table `{kind["table"]}`, `{kind["list"]}` in an export'
    if "owner" in kind:
        head += f', rows of a {kind["owner"]} (`{kind["ownerKey"]}`)'
    if "since" in kind:
        head += f', since version {kind["since"]}'
    lines += [head, "", "| field | column | takes | |", "|---|---|---|---|"]
    for field in kind["fields"]:
        notes = (["may be left out"] if "mayLack" in field else []) + \
            ([f'since {field["since"]}'] if "since" in field and field["since"] > kind.get("since", 1) else [])
        column = f'`{field["column"]}`' if "column" in field else ""
        lines.append(f'| `{field["name"]}` | {column} | {takes(field)} | {", ".join(notes)} |')
    lines.append("")
made = "\n".join(lines)

path = root / "docs" / "job-format.md"
text = path.read_text(encoding="utf-8")
begin, end = "<!-- tables -->\n", "<!-- end of tables -->"
first, rest = text.split(begin, 1)
old, last = rest.split(end, 1)
new = first + begin + "\n" + made + end + last
if "--check" in sys.argv:
    if new != text:
        sys.exit("docs/job-format.md is not what the descriptions say: run scripts/format-docs.py")
    print(f'{len(form["kinds"])} kinds, as docs/job-format.md has them')
else:
    path.write_text(new, encoding="utf-8")
