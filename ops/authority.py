"""A workshop's own small certificate authority: its phones trust it once, and every address of its server is of it.

Run by the Python that has the packages: `python -m ops.authority FOLDER NAME …` prints what it keeps, as JSON.
What a stolen key could do is bounded: the authority may speak for names and addresses inside a house only.
"""

import argparse
import datetime
import ipaddress
import json
import os
from collections.abc import Sequence
from pathlib import Path

import ifaddr
from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

YEARS = datetime.timedelta(days=3650)
LEAF = datetime.timedelta(days=390)  # phones take 398 at most (and 825 of an authority that their owner trusts)
RENEWED = datetime.timedelta(days=60)  # before it ends
BEFORE = datetime.timedelta(days=1)  # clocks in a workshop differ
# RFC 1918, RFC 3927, RFC 4193, RFC 4291, loopback; of names those that nobody outside can own (RFC 6762, 6761, 8375).
INSIDE = (
    *("10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "169.254.0.0/16", "127.0.0.0/8"),
    *("fc00::/7", "fe80::/10", "::1/128"),
)
NAMES_INSIDE = ("local", "localhost", "home.arpa", "internal", "test")


def main() -> None:
    """Keep the authority and the server's certificate; print where they lie and whom they are for."""
    wanted = argparse.ArgumentParser(description=__doc__)
    wanted.add_argument("folder", type=Path)
    wanted.add_argument("names", nargs="+")
    asked = wanted.parse_args()
    print(json.dumps(keep(asked.folder, [*asked.names, "localhost"], [*addresses(), "127.0.0.1"])))


def addresses() -> list[str]:
    """Return the IPv4 addresses of this machine inside its house, without loopback."""
    own = {str(ip.ip) for adapter in ifaddr.get_adapters() for ip in adapter.ips if ip.is_IPv4}
    nets = [ipaddress.ip_network(net) for net in INSIDE if ":" not in net and not net.startswith("127.")]
    return sorted(ip for ip in own if any(ipaddress.ip_address(ip) in net for net in nets))


def keep(folder: Path, names: Sequence[str], ips: Sequence[str], *, now: datetime.datetime | None = None) -> dict:
    """Make what is missing, ends soon or is for other addresses.

    Returns `authority`, `certificate` and `key`, which are paths, `fingerprint` and `addresses`.
    """
    now = now or datetime.datetime.now(datetime.UTC)
    if outside := [
        name for name in names if name.rpartition(".")[2] not in NAMES_INSIDE and not name.endswith("home.arpa")
    ]:
        ends = ", ".join(f".{name}" for name in NAMES_INSIDE)
        raise SystemExit(f"{outside[0]} could be a name of the world outside; choose one that ends in {ends}.")
    folder.mkdir(parents=True, exist_ok=True)
    folder.chmod(0o700)
    files = {name: folder / f"{name}.pem" for name in ("authority", "authority-key", "certificate", "key")}
    if not (files["authority"].is_file() and files["authority-key"].is_file()):
        _make_authority(files, now)
    authority = x509.load_pem_x509_certificate(files["authority"].read_bytes())
    if not _serves(files, authority, names, ips, now):
        _make_certificate(files, authority, names, ips, now)
    shown = authority.fingerprint(hashes.SHA256()).hex(":").upper()
    kept = {name: str(files[name]) for name in ("authority", "certificate", "key")}
    return kept | {"fingerprint": shown, "addresses": [ip for ip in ips if ip != "127.0.0.1"]}


def _make_authority(files: dict[str, Path], now: datetime.datetime) -> None:
    key = ec.generate_private_key(ec.SECP256R1())
    name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, f"Hematite, this workshop's own ({now:%Y-%m-%d %H:%M})")])
    usage = {name: False for name in x509.KeyUsage.__init__.__annotations__ if name != "return"}
    inside = [x509.DNSName(name) for name in NAMES_INSIDE]
    built = (
        _builder(name, name, key.public_key(), now, YEARS)
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .add_extension(x509.KeyUsage(**usage | {"key_cert_sign": True, "crl_sign": True}), critical=True)
        .add_extension(x509.SubjectKeyIdentifier.from_public_key(key.public_key()), critical=False)
        .add_extension(
            x509.NameConstraints([*inside, *(x509.IPAddress(ipaddress.ip_network(net)) for net in INSIDE)], None),
            critical=True,
        )
    )
    _write(files["authority-key"], _private(key), secret=True)
    _write(files["authority"], built.sign(key, hashes.SHA256()).public_bytes(serialization.Encoding.PEM))


def _make_certificate(
    files: dict[str, Path],
    authority: x509.Certificate,
    names: Sequence[str],
    ips: Sequence[str],
    now: datetime.datetime,
) -> None:
    signer = serialization.load_pem_private_key(files["authority-key"].read_bytes(), password=None)
    assert isinstance(signer, ec.EllipticCurvePrivateKey)
    key = ec.generate_private_key(ec.SECP256R1())
    subject = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, names[0])])
    issuer_key = x509.AuthorityKeyIdentifier.from_issuer_public_key(signer.public_key())
    built = (
        _builder(subject, authority.subject, key.public_key(), now, LEAF)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(x509.SubjectAlternativeName(_whom(names, ips)), critical=False)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .add_extension(issuer_key, critical=False)
    )
    _write(files["key"], _private(key), secret=True)
    _write(files["certificate"], built.sign(signer, hashes.SHA256()).public_bytes(serialization.Encoding.PEM))


def _whom(names: Sequence[str], ips: Sequence[str]) -> list[x509.GeneralName]:
    return [*map(x509.DNSName, names), *(x509.IPAddress(ipaddress.ip_address(ip)) for ip in ips)]


def _builder(
    subject: x509.Name,
    issuer: x509.Name,
    key: ec.EllipticCurvePublicKey,
    now: datetime.datetime,
    lasts: datetime.timedelta,
) -> x509.CertificateBuilder:
    named = x509.CertificateBuilder().subject_name(subject).issuer_name(issuer).public_key(key)
    dated = named.not_valid_before(now - BEFORE).not_valid_after(now + lasts)
    return dated.serial_number(x509.random_serial_number())


def _serves(
    files: dict[str, Path],
    authority: x509.Certificate,
    names: Sequence[str],
    ips: Sequence[str],
    now: datetime.datetime,
) -> bool:
    """Return whether the certificate at hand is of this authority and for these addresses for a while yet."""
    if not (files["certificate"].is_file() and files["key"].is_file()):
        return False
    kept = x509.load_pem_x509_certificate(files["certificate"].read_bytes())
    for_whom = kept.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    own = serialization.load_pem_private_key(files["key"].read_bytes(), password=None).public_key()
    same = kept.issuer == authority.subject and set(for_whom) >= set(_whom(names, ips)) and own == kept.public_key()
    return same and kept.not_valid_after_utc - RENEWED > now


def _private(key: ec.EllipticCurvePrivateKey) -> bytes:
    plain = serialization.NoEncryption()
    return key.private_bytes(serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, plain)


def _write(path: Path, data: bytes, *, secret: bool = False) -> None:
    """Write whole or not at all; a secret is its owner's alone from the first byte."""
    part = path.with_suffix(".part")
    part.unlink(missing_ok=True)
    with os.fdopen(os.open(part, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600 if secret else 0o644), "wb") as file:
        file.write(data)
    part.replace(path)


if __name__ == "__main__":
    main()
