"""Where machines are: addresses, who may be reached without encryption, and certificates."""

from __future__ import annotations

import datetime
import ipaddress
import re
import socket
from pathlib import Path
from typing import Any

from altana.core.errors import UserError
from altana.storage.files import make_folder, write_atomically

PORT = 8786
#: The files of ``altana certificates``.
AUTHORITY, MACHINE, KEY = "authority.pem", "machine.pem", "machine.key"
VALID_DAYS = 825
OPEN_SAID = "Not encrypted: whoever is on this network can read what is sent and may join in. `altana certificates` makes what is needed for encryption."


def address_of(text: str, certificates: Path | None, look_up: bool = True) -> str:
    """``tcp://host:port`` or ``tls://host:port``; host and port alone will do.  Raises UserError for what is
    no address, and for one outside this machine and private networks where there are no certificates.

    look_up : False leaves names of hosts for later, because asking for them may take seconds."""
    match = re.fullmatch(r"(?:(tcp|tls)://)?(\[[0-9a-fA-F:.]+\]|[\w.-]+)(?::(\d{1,5}))?/?", text.strip())
    if not match or int(match.group(3) or PORT) > 65_535:
        raise UserError(f"“{text}” is no address. Write tcp://host:{PORT}.")
    kind, host, port = match.group(1), match.group(2).strip("[]"), int(match.group(3) or PORT)
    if kind == "tls" and certificates is None:
        raise UserError(f"{text} is encrypted. Name the folder with your certificates: --certificates DIR.")
    if certificates is None:
        _check_near(host, look_up)
    shown = f"[{host}]" if ":" in host else host
    return f"{'tls' if certificates is not None else 'tcp'}://{shown}:{port}"


def anybody_at(address: str, seconds: float) -> bool:
    """Whether something listens at an address; asked before anything slow is begun."""
    host, _, port = address.partition("://")[2].rpartition(":")
    try:
        with socket.create_connection((host.strip("[]"), int(port)), timeout=seconds):
            return True
    except OSError:
        return False


def _check_near(host: str, look_up: bool) -> None:
    flags = 0 if look_up else socket.AI_NUMERICHOST
    try:
        addresses = {item[4][0] for item in socket.getaddrinfo(host, None, flags=flags)}
    except (OSError, UnicodeError) as error:
        if not look_up:
            return
        raise UserError(
            f"{host} cannot be found. Nothing was sent. Check the name and the network."
        ) from error
    for text in addresses:
        address = ipaddress.ip_address(str(text).partition("%")[0])
        if address.is_unspecified or not (address.is_loopback or address.is_private or address.is_link_local):
            raise UserError(
                f"{host} is not on a private network, and without certificates nothing is encrypted. Nothing was sent. "
                "Make certificates with `altana certificates`, and name their folder on all machines."
            )


def certificates_in(text: str) -> Path | None:
    """A folder of certificates as it was typed; None where nothing was.  Raises UserError where there are
    none in it."""
    if not text.strip():
        return None
    folder = Path(text.strip()).expanduser()
    _check_there(folder)
    return folder


def _check_there(folder: Path) -> None:
    missing = [name for name in (AUTHORITY, MACHINE, KEY) if not (folder / name).is_file()]
    if missing:
        raise UserError(
            f"{missing[0]} is not in {folder}. Make certificates with `altana certificates {folder}`."
        )


def security_of(certificates: Path | None) -> Any:
    """Dask's settings for a folder of certificates; None without.  Raises UserError."""
    if certificates is None:
        return None
    _check_there(certificates)
    from distributed.security import Security

    own = {
        f"tls_{who}_{what}": str(certificates / name)
        for who in ("client", "scheduler", "worker")
        for what, name in (("cert", MACHINE), ("key", KEY))
    }
    security: Any = Security
    return security(tls_ca_file=str(certificates / AUTHORITY), require_encryption=True, **own)


def make_certificates(folder: Path) -> list[Path]:
    """An authority of one's own and a certificate that all one's machines share; the authority's key is not
    kept, so that nobody can make more.  Raises UserError where there are some already."""
    from cryptography import x509
    from cryptography.hazmat.primitives import hashes, serialization
    from cryptography.hazmat.primitives.asymmetric import ec
    from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

    if any((folder / name).exists() for name in (AUTHORITY, MACHINE, KEY)):
        raise UserError(
            f"There are certificates in {folder}. Nothing was changed. Choose another folder, or remove them first."
        )
    make_folder(folder)
    now = datetime.datetime.now(datetime.UTC)

    def named(text: str) -> x509.Name:
        return x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, text)])

    def begun(subject: str, public: ec.EllipticCurvePublicKey) -> x509.CertificateBuilder:
        return (
            x509.CertificateBuilder()
            .subject_name(named(subject))
            .issuer_name(named("Altana machines"))
            .public_key(public)
            .serial_number(x509.random_serial_number())
            .not_valid_before(now - datetime.timedelta(hours=1))
            .not_valid_after(now + datetime.timedelta(days=VALID_DAYS))
        )

    own, machine = ec.generate_private_key(ec.SECP256R1()), ec.generate_private_key(ec.SECP256R1())
    authority = begun("Altana machines", own.public_key()).add_extension(
        x509.BasicConstraints(ca=True, path_length=0), critical=True
    )
    usages = x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH, ExtendedKeyUsageOID.CLIENT_AUTH])
    one = begun("Altana machine", machine.public_key()).add_extension(usages, critical=False)
    pem = serialization.Encoding.PEM
    secret = machine.private_bytes(pem, serialization.PrivateFormat.PKCS8, serialization.NoEncryption())
    parts = {
        AUTHORITY: authority.sign(own, hashes.SHA256()).public_bytes(pem),
        MACHINE: one.sign(own, hashes.SHA256()).public_bytes(pem),
        KEY: secret,
    }
    for name, data in parts.items():
        write_atomically(folder / name, data)
    (folder / KEY).chmod(0o600)
    return [folder / name for name in parts]
