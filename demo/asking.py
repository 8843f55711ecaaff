"""What the scripts that make the demo share: ids, and asking burin-cli."""
import hashlib
import json
import subprocess
import sys
import tempfile
from pathlib import Path

HERE = Path(__file__).parent
JOB = HERE / "kittiwake.json"


def ident(text):
    return hashlib.sha256(text.encode()).hexdigest()[:16]


class Asking:
    """burin-cli, by the path given to the script or where it is built."""

    def __init__(self):
        self.cli = sys.argv[1] if len(sys.argv) > 1 else str(HERE.parent / "build/release/bin/burin-cli")

    def ask(self, *words):
        done = subprocess.run([self.cli, *words], capture_output=True, text=True)
        if done.returncode != 0:
            sys.exit(done.stderr)
        return done.stdout

    def edited(self, title, changes_of):
        """Imports the demo, applies what `changes_of(job file)` gives as one edit, exports it again."""
        with tempfile.TemporaryDirectory() as folder:
            job = f"{folder}/demo.burin"
            self.ask("import", str(JOB), job)
            edits = Path(folder) / "edits.json"
            edits.write_text(json.dumps({"title": title, "changes": changes_of(job)}))
            self.ask("edit", job, str(edits))
            self.ask("export", job, str(JOB))
