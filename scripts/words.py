#!/usr/bin/env python3
"""All that Burin says, for a translator.

words.py FILE.ts   writes or updates FILE.ts for Qt Linguist: the window's words (lupdate), and those of
                   the core and the catalogue, each under its key. What is translated in it stays.
words.py --check PROGRAMS JOB.json
                   every key and word in the findings of the job is among them; and in a language made of
                   that file, every word translated, the whole window shows none in English.
"""
import json
import os
import pathlib
import re
import subprocess
import sys
import tempfile
import xml.etree.ElementTree as xml

root = pathlib.Path(__file__).resolve().parent.parent
qt = pathlib.Path("/usr/lib/qt6/bin")
text = r'"(?:[^"\\]|\\.)*"'
texts = rf"{text}(?:\s*{text})*"
key = r'"([a-z][a-z0-9]*(?:[.-][a-z0-9-]+)*)"'


def literal(written):
    """What one or more C++ literals side by side say."""
    return "".join(json.loads(one) for one in re.findall(text, written))


def wordings(source):
    """Key and English of each wording in a source: {"reach.binds", "{0} binds at {1}"}."""
    found = re.findall(rf"\{{\s*{key}\s*,\s*({texts})\s*\}}", source)
    # A key of one word is that of a sentence of something: of two texts alone it is a list.
    return [(k, literal(english)) for k, english in found if "." in k or "{0" in english]


def terms(source):
    """Words that stand by themselves: what a call is given, and the words of enumerations."""
    out = [literal(one) for one in re.findall(rf"\b(?:asTerm|term|cited)\(\s*({texts})\s*\)", source)]
    # Where something was refused, and what the screen calls what was typed.
    out += [literal(one) for one in re.findall(rf"\brefuse\(\s*({texts})\s*,", source)]
    out += [literal(one) for one in re.findall(rf"\b(?:parseNumber|readTyped|bad)\([^;]*?({texts})", source)]
    for one, other in re.findall(rf"\?\s*({texts})\s*:\s*({texts})", source):
        out += [literal(one), literal(other)]
    for table in re.findall(rf"wordsOf<\w+>\(((?:\s*{text}\s*,?)+)\)", source):
        out += [literal(one) for one in re.findall(text, table)]
    # Lists of words: the wires of a jack, what a verdict is called.
    for row in re.findall(rf"\{{((?:\s*{text}\s*,)+\s*{text}\s*,?)\s*\}}", source):
        words = [literal(one) for one in re.findall(text, row)]
        if len(words) > 2 or "." not in words[0]:
            out += words
    # Words by kind: `case Kind::One: return "word";`, and `{Kind::One, "word"}`.
    out += [literal(one) for one in re.findall(rf"return\s+({texts})\s*;", source)]
    for row in re.findall(rf"\b[A-Z]\w*::\w+((?:\s*,\s*{text})+)", source):
        out += [literal(one) for one in re.findall(text, row)]
    return out


def fields():
    """Fields of what a job keeps, as a conflict calls them: fieldWords of core/edit/typed_field."""
    units = "m mm c v ohm n w db mhz ns share kbit per id".split()
    out = []
    for line in (root / "docs" / "job-format.md").read_text().splitlines():
        if not line.startswith("| `"):
            continue
        for name in re.findall(r"`([a-z][A-Za-z0-9]*)`", line):
            words = re.sub("([A-Z])", lambda capital: " " + capital[0].lower(), name).split()
            while len(words) > 1 and words[-1] in units:
                words.pop()
            out.append(" ".join(words))
    return out


def catalogue(value):
    if isinstance(value, str):
        return [value]
    if isinstance(value, dict):
        return [one for name, inner in value.items() if name != "id" for one in catalogue(inner)]
    return [one for inner in value for one in catalogue(inner)] if isinstance(value, list) else []


def all_words():
    """(comment, English) of all there is: the comment is the key, or "term". One key is one wording."""
    out = {}
    under = {}
    for path in sorted((root / "src").rglob("*")):
        if path.suffix in (".cpp", ".h"):
            source = path.read_text()
            for key, english in wordings(source):
                if under.setdefault(key, english) != english:
                    sys.exit(f"words: two wordings are called {key}: “{under[key]}” and “{english}”")
                if re.search(r"\{(?!\d)", english):
                    sys.exit(f"words: {key} has a brace that stands for nothing: “{english}”")
                out[key, english] = None
            out.update(dict.fromkeys(("term", word) for word in terms(source)))
    out.update(dict.fromkeys(("term", word) for word in fields()))
    for path in sorted((root / "catalogue").glob("*.json")):
        out.update(dict.fromkeys(("term", word) for word in catalogue(json.loads(path.read_text()))))
    return list(out)


def has_words(english):
    return re.search("[A-Za-z]{2}", re.sub(r"\{\d\}", "", english)) is not None


def write(path):
    # With the headers, or it does not know whose words they are.
    told = subprocess.run([qt / "lupdate", "-silent", "-locations", "none", "-I", root / "src", root / "src/app",
                           root / "src/files", "-ts", path], check=True, capture_output=True, text=True).stderr
    # Said in one class and looked for in another: it would stay English.
    if lost := [line for line in told.splitlines() if "lacks Q_OBJECT" in line]:
        sys.exit("\n".join(lost))
    tree = xml.parse(path)
    found = tree.getroot().findall("context")
    # Nothing is looked for but in its class, by QObject::tr, or by the core's words.
    for name in (context.findtext("name") for context in found):
        if not name.startswith("burin::") and name not in ("QObject", "core"):
            sys.exit(f"words: nothing is looked for under {name}")
    old = next((c for c in found if c.findtext("name") == "core"), None)
    known = {}
    if old is not None:
        known = {(m.findtext("comment"), m.findtext("source")): m.find("translation") for m in old.findall("message")}
        tree.getroot().remove(old)
    core = xml.SubElement(tree.getroot(), "context")
    xml.SubElement(core, "name").text = "core"
    for comment, english in filter(lambda one: has_words(one[1]), all_words()):
        message = xml.SubElement(core, "message")
        xml.SubElement(message, "source").text = english
        xml.SubElement(message, "comment").text = comment
        done = known.get((comment, english))
        if done is not None:
            message.append(done)
        else:
            xml.SubElement(message, "translation", type="unfinished")
    xml.indent(tree)
    tree.write(path, encoding="utf-8", xml_declaration=True)
    return len(core) - 1


def accented(english):
    """As a language nobody speaks; places for figures and marks of rich text stay."""
    marked = str.maketrans("aeiouyncsAEIOUYNCS", "áéíöüýñçšÁÉÍÖÜÝÑÇŠ")
    kept = re.split(r"(\{\d\??|\}|<[^>]*>|%\d|%n|&\w+;)", english)
    return "‹" + "".join(one if k % 2 else one.translate(marked) for k, one in enumerate(kept)) + "›"


def write_accented(folder):
    """A language file in which nothing is left to translate: what still reads English was not asked for
    as a translator's file has it."""
    file = pathlib.Path(folder) / "burin_zz.ts"
    count = write(file)
    tree = xml.parse(file)
    for message in tree.getroot().iter("message"):
        done = message.find("translation")
        done.attrib.pop("type", None)
        english = accented(message.findtext("source"))
        forms = done.findall("numerusform")
        for form in forms:
            form.text = english
        if not forms:
            done.text = english
    tree.write(file, encoding="utf-8", xml_declaration=True)
    subprocess.run([qt / "lrelease", "-silent", file, "-qm", file.with_suffix(".qm")], check=True)
    return count


def said(value):
    """Every (key, words) and term in the command line's "…Said"."""
    if isinstance(value, dict):
        if value.get("of") == "term":
            yield "term", value["text"]
        elif isinstance(value.get("key"), str) and isinstance(value.get("of"), list) and value["key"]:
            yield value["key"], None
        for inner in value.values():
            yield from said(inner)
    elif isinstance(value, list):
        for inner in value:
            yield from said(inner)


def check(programs, job):
    cli = programs / "burin-cli"
    with tempfile.TemporaryDirectory() as folder:
        count = write_accented(folder)
        walked = subprocess.run([programs / "test_language", "everythingIsOfTheLanguage", "whatOpensIsOfTheLanguage",
                                 "whatIsLeftToDecideIsOfTheLanguage"],
                                env={**os.environ, "QT_QPA_PLATFORM": "offscreen", "BURIN_LANGUAGES": folder},
                                capture_output=True, text=True)
        if walked.returncode != 0:
            sys.exit(walked.stdout + "\nwords: that is English in a window whose every word is translated")
        kept = pathlib.Path(folder) / "job.burin"
        subprocess.run([cli, "import", job, kept], check=True, stdout=subprocess.DEVNULL)
        found = set()
        for words in (["findings"], ["site"], ["pull"], ["materials"], ["ends"]):
            answer = subprocess.run([cli, *words, kept], capture_output=True, text=True)
            if answer.returncode in (0, 1) and answer.stdout:
                found |= set(said(json.loads(answer.stdout)))
    every = all_words()
    keys = {comment for comment, _ in every}
    known = {english for comment, english in every if comment == "term"}
    # "Cat 6A" is so in every language.
    missing = sorted(f"{k}: {word or ''}" for k, word in found
                     if (word is None and k not in keys) or
                     (word is not None and word not in known and has_words(re.sub(r"^Cat \w+$", "", word))))
    for one in missing:
        print("not among the words for a translator:", one, file=sys.stderr)
    if not found:
        sys.exit("words: nothing was said")
    print(f"words: {count} of the core and the catalogue; {len(found)} in the findings of {pathlib.Path(job).name}, "
          f"{len(missing)} of them missing")
    sys.exit(1 if missing else 0)


if len(sys.argv) == 4 and sys.argv[1] == "--check":
    check(pathlib.Path(sys.argv[2]), sys.argv[3])
elif len(sys.argv) == 2 and sys.argv[1].endswith(".ts"):
    print(f"{write(pathlib.Path(sys.argv[1]))} of the core and the catalogue, and the window's, in {sys.argv[1]}")
else:
    sys.exit(__doc__)
