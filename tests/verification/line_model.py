"""The line and its parts written a second time, from the formulas of docs/verification.md, with numpy.
Shared by the checks beside it; nothing here is taken from Burin but its catalogue's figures."""
import json
import os

import numpy as np

ROOT = os.path.dirname(os.path.dirname(os.path.dirname(os.path.abspath(__file__))))
C0 = 299792458.0
CABLES = {c["id"]: c for c in json.load(open(ROOT + "/catalogue/cables.json"))["cables"]}


def figure(cable, key):
    return cable[key]["value"] if key in cable else 0.0


def constants(cable_id, f_mhz):
    """γ in 1/m and Z0 in Ω of a catalogue cable at 20 °C."""
    c = CABLES[cable_id]
    z, v = figure(c, "impedanceOhm"), figure(c, "nvp") * C0
    k0, k1, k2 = (figure(c, k) / 868.5889638 for k in ("k0Db", "k1Db", "k2Db"))
    back = figure(c, "conductorOhmPerKm" if c["kind"] == "balanced" else "shieldOhmPerKm")
    rdc = (figure(c, "conductorOhmPerKm") + back) / 1000
    w = 2 * np.pi * f_mhz * 1e6
    w0 = 2 * np.pi * 100e6
    flat = 2 * z * k0
    series = flat + np.sqrt(max(rdc - flat, 0) ** 2 + 2j * (2 * z * k1 * np.sqrt(f_mhz)) ** 2)
    series = series + 1j * w * z / v
    delta = np.arctan(2 * k2 * f_mhz * v / w)
    shunt = 1j * w / (z * v) * (1j * w / w0) ** (-2 * delta / np.pi)
    return np.sqrt(series * shunt), np.sqrt(series / shunt)


def plain(z, velocity, f_mhz):
    w = 2 * np.pi * f_mhz * 1e6
    return 1j * w / (velocity * C0), np.full(len(f_mhz), z, dtype=complex)


def line_abcd(gamma, z, length):
    out = np.empty((len(gamma), 2, 2), dtype=complex)
    out[:, 0, 0] = out[:, 1, 1] = np.cosh(gamma * length)
    out[:, 0, 1] = z * np.sinh(gamma * length)
    out[:, 1, 0] = np.sinh(gamma * length) / z
    return out


def branch(part, f_mhz):
    w = 2 * np.pi * f_mhz * 1e6
    z = part.get("ohm", 0) + 1j * w * part.get("nanohenry", 0) * 1e-9
    if part.get("picofarad"):
        z = z + 1 / (1j * w * part["picofarad"] * 1e-12)
    return z


def two(a, b, c, d, n):
    out = np.empty((n, 2, 2), dtype=complex)
    out[:, 0, 0], out[:, 0, 1], out[:, 1, 0], out[:, 1, 1] = a, b, c, d
    return out


def part_abcd(part, f_mhz, reference):
    n = len(f_mhz)
    kind = part["kind"]
    if kind in ("line", "stub"):
        g, z = (constants(part["cable"], f_mhz) if "cable" in part else
                plain(part["impedanceOhm"], part["velocity"], f_mhz))
        if kind == "line":
            return line_abcd(g, z, part["lengthM"])
        t = np.tanh(g * part["lengthM"])
        zin = {"open": z / t, "short": z * t}.get(part["end"]) if isinstance(part["end"], str) else \
            z * (part["end"] + z * t) / (z + part["end"] * t)
        return two(1, 0, 1 / zin, 1, n)
    if kind == "series":
        return two(1, branch(part, f_mhz), 0, 1, n)
    if kind == "shunt":
        return two(1, 0, 1 / branch(part, f_mhz), 1, n)
    if kind == "splitter":
        loss = {2: 3.8, 3: 6.0, 4: 7.4, 6: 9.5, 8: 11.0}[part["ways"]]
        loss = loss + 1.5 * np.maximum(0, (f_mhz - 1000) / 1150)
        x = loss / 20 * np.log(10)
        return two(np.cosh(x), reference * np.sinh(x), np.sinh(x) / reference, np.cosh(x), n)
    raise ValueError(kind)


def old_numpy_names():
    """scikit-rf 0.15.4 of Debian wants names numpy has since dropped."""
    for name, kind in (("complex", complex), ("float", float), ("int", int), ("bool", bool),
                       ("object", object)):
        if name not in np.__dict__:
            setattr(np, name, kind)
