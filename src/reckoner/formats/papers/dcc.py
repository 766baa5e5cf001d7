"""A signed run as a digital calibration certificate (XML): quantities with their units, uncertainty and coverage, statements,
and the PDF and the result file attached.

It follows the structure of the freely published schema as far as that can be built without the schema's own files at hand,
and is checked against an XSD of the part that is written (``dcc_subset.xsd``), which ships with the product: what the
published schema asks beyond that is for whoever receives it to say. docs/file-formats.md tells so.
"""

from __future__ import annotations

import base64
from dataclasses import dataclass
from datetime import date
from functools import cache
from importlib.resources import as_file, files
from typing import Any

from lxml import etree

from reckoner.core.errors import OurFault, Refused
from reckoner.core.translation import tr

DCC, SI = "https://ptb.de/dcc", "https://ptb.de/si"
SCHEMA_VERSION = "3.2.1"
"""Of the published schema whose structure is followed."""

UNKNOWN_COUNTRY = "ZZ"
"""ISO 3166-1 keeps it for what is not known: a shop says where it is in words."""

NEWTON_METRE, ONE, CELSIUS, PERCENT = r"\newton\metre", r"\one", r"\degreecelsius", r"\percent"
MOST_BYTES = 60_000_000
DECLARES = tr("The file declares a document type or entities; a certificate has none. Nothing was read.")


class XmlRefused(Refused):
    """A text is no digital certificate of the kind that is written here; the sentence says why."""

    def __str__(self) -> str:
        return str(self.args[0])


@dataclass(frozen=True)
class CertificateQuantity:
    """A value with its ``unit`` (as \\newton\\metre), and its expanded uncertainty where it has one; several values are a
    list without one."""

    name: str
    values: tuple[float, ...]
    unit: str
    uncertainty: float | None = None
    coverage_factor: float = 2.0
    coverage: float = 0.9545
    declaration: str = ""
    conformity: str = ""


@dataclass(frozen=True)
class ResultPart:
    """One point: its name and its quantities."""

    name: str
    quantities: tuple[CertificateQuantity, ...]


@dataclass(frozen=True)
class MeasuredPhase:
    """As found or as left."""

    name: str
    results: tuple[ResultPart, ...]


@dataclass(frozen=True)
class Attached:
    """A file inside."""

    name: str
    mime: str
    data: bytes


@dataclass(frozen=True)
class DigitalCertificate:
    """All of it. ``conformity`` is "pass", "fail" or empty where nothing was decided; ``shop`` and ``address`` stand for the
    laboratory and for the customer."""

    number: str
    software: str
    release: str
    begun: date
    ended: date
    tool: str
    maker: str
    model: str
    identifications: tuple[tuple[str, str], ...]
    shop: str
    address: str
    signers: tuple[str, ...]
    method: str
    reference: str
    conditions: tuple[CertificateQuantity, ...]
    statements: tuple[str, ...]
    conformity: str
    phases: tuple[MeasuredPhase, ...]
    document: Attached
    result_file: Attached


def written(content: DigitalCertificate) -> bytes:
    """The certificate as XML, UTF-8, valid by the XSD that ships. Raises OurFault where it is not."""

    root = _root(content)
    schema = _schema()
    if not schema.validate(root):
        raise OurFault(f"a digital certificate is not as its schema says: {schema.error_log.last_error}")
    made: bytes = etree.tostring(root, xml_declaration=True, encoding="UTF-8", pretty_print=True)
    return made


def read(data: bytes) -> Any:
    """The root element of a digital certificate. Raises XmlRefused for what is none, or names entities or other files:
    nothing is fetched."""

    if len(data) > MOST_BYTES:
        raise XmlRefused(
            tr(
                "The file is larger than {most_bytes} MB; that cannot be a certificate.",
                most_bytes=MOST_BYTES // 1000000,
            )
        )
    if b"<!DOCTYPE" in data or b"<!ENTITY" in data:  # before anything could be resolved
        raise XmlRefused(DECLARES)
    parser = etree.XMLParser(resolve_entities=False, no_network=True, load_dtd=False, huge_tree=False)
    try:
        root = etree.fromstring(data, parser)
    except etree.XMLSyntaxError as fault:
        raise XmlRefused(tr("The file is not XML that can be read: {msg}.", msg=fault.msg)) from None
    if root.getroottree().docinfo.doctype:
        raise XmlRefused(DECLARES)
    schema = _schema()
    if not schema.validate(root):
        last = schema.error_log.last_error
        raise XmlRefused(
            tr(
                "The file is no certificate of this kind: {message} (line {line}).",
                message=last.message,
                line=last.line,
            )
        )
    return root


@cache
def _schema() -> Any:
    folder = files("reckoner") / "formats"
    with as_file(folder / "dcc_subset.xsd") as path, as_file(folder / "dsi_subset.xsd"):
        return etree.XMLSchema(etree.parse(str(path)))


class _Maker:
    """Elements of the two namespaces."""

    def __init__(self) -> None:
        self._etree = etree
        self.root = etree.Element(f"{{{DCC}}}digitalCalibrationCertificate", nsmap={"dcc": DCC, "si": SI})

    def add(self, parent: Any, name: str, words: str | None = None) -> Any:
        made = self._etree.SubElement(parent, f"{{{DCC}}}{name}")
        if words is not None:
            made.text = _plain(words)
        return made

    def si(self, parent: Any, name: str, words: str | None = None) -> Any:
        made = self._etree.SubElement(parent, f"{{{SI}}}{name}")
        if words is not None:
            made.text = words
        return made

    def text(self, parent: Any, name: str, words: str) -> Any:
        made = self.add(parent, name)
        content = self.add(made, "content", words or "—")
        content.set("lang", "en")
        return made


def _plain(words: str) -> str:
    """``words`` without characters that XML does not have."""
    return "".join(c for c in words if c in "\t\n\r" or ord(c) >= 32)


def _root(content: DigitalCertificate) -> Any:
    m = _Maker()
    m.root.set("schemaVersion", SCHEMA_VERSION)
    _administrative(m, content)
    results = m.add(m.root, "measurementResults")
    for phase in content.phases:
        _phase(m, results, content, phase)
    _bytes(m, m.add(m.root, "document"), content.document)
    return m.root


def _administrative(m: _Maker, content: DigitalCertificate) -> None:
    data = m.add(m.root, "administrativeData")
    software = m.add(m.add(data, "dccSoftware"), "software")
    m.text(software, "name", content.software)
    m.add(software, "release", content.release)
    core = m.add(data, "coreData")
    for name, words in (
        ("countryCodeISO3166_1", UNKNOWN_COUNTRY),
        ("usedLangCodeISO639_1", "en"),
        ("mandatoryLangCodeISO639_1", "en"),
        ("uniqueIdentifier", content.number),
        ("beginPerformanceDate", content.begun.isoformat()),
        ("endPerformanceDate", content.ended.isoformat()),
        ("performanceLocation", "laboratory"),
    ):
        m.add(core, name, words)
    item = m.add(m.add(data, "items"), "item")
    m.text(item, "name", content.tool)
    if content.maker:
        m.text(m.add(item, "manufacturer"), "name", content.maker)
    if content.model:
        m.add(item, "model", content.model)
    _identified(m, item, content.identifications)
    _contact(m, m.add(m.add(data, "calibrationLaboratory"), "contact"), content)
    persons = m.add(data, "respPersons")
    for i, signer in enumerate(content.signers):
        person = m.add(persons, "respPerson")
        m.text(m.add(person, "person"), "name", signer)
        m.add(person, "mainSigner", "true" if i == 0 else "false")
    _contact(m, m.add(data, "customer"), content)
    statements = m.add(data, "statements")
    for i, words in enumerate(content.statements):
        statement = m.add(statements, "statement")
        m.text(statement, "declaration", words)
        if i == 0 and content.conformity:
            m.add(statement, "conformity", content.conformity)


def _identified(m: _Maker, parent: Any, identifications: tuple[tuple[str, str], ...]) -> None:
    made = m.add(parent, "identifications")
    for issuer, value in identifications:
        one = m.add(made, "identification")
        m.add(one, "issuer", issuer)
        m.add(one, "value", value)


def _contact(m: _Maker, parent: Any, content: DigitalCertificate) -> None:
    m.text(parent, "name", content.shop)
    m.text(m.add(parent, "location"), "further", content.address)


def _phase(m: _Maker, results: Any, content: DigitalCertificate, phase: MeasuredPhase) -> None:
    made = m.add(results, "measurementResult")
    m.text(made, "name", phase.name)
    m.text(m.add(m.add(made, "usedMethods"), "usedMethod"), "name", content.method)
    equipment = m.add(m.add(made, "measuringEquipments"), "measuringEquipment")
    m.text(equipment, "name", content.reference)
    _identified(m, equipment, (("owner", content.reference),))
    if content.conditions:
        conditions = m.add(made, "influenceConditions")
        for condition in content.conditions:
            one = m.add(conditions, "influenceCondition")
            m.text(one, "name", condition.name)
            _quantity(m, m.add(one, "data"), condition)
    parts = m.add(made, "results")
    for part in phase.results:
        one = m.add(parts, "result")
        m.text(one, "name", part.name)
        data = m.add(one, "data")
        for quantity in part.quantities:
            _quantity(m, data, quantity)
    attached = m.add(parts, "result")
    m.text(attached, "name", "Everything behind this certificate")
    _bytes(m, m.add(m.add(attached, "data"), "byteData"), content.result_file)


def _quantity(m: _Maker, parent: Any, quantity: CertificateQuantity) -> None:
    made = m.add(parent, "quantity")
    m.text(made, "name", quantity.name)
    if len(quantity.values) != 1:
        listed = m.si(made, "realListXMLList")
        m.si(listed, "valueXMLList", " ".join(f"{value!r}" for value in quantity.values))
        m.si(listed, "unitXMLList", quantity.unit)
    else:
        real = m.si(made, "real")
        m.si(real, "value", f"{quantity.values[0]!r}")
        m.si(real, "unit", quantity.unit)
        if quantity.uncertainty is not None:
            expanded = m.si(real, "expandedUnc")
            m.si(expanded, "uncertainty", f"{quantity.uncertainty!r}")
            m.si(expanded, "coverageFactor", f"{quantity.coverage_factor!r}")
            m.si(expanded, "coverageProbability", f"{quantity.coverage!r}")
    if quantity.declaration:
        told = m.add(m.add(made, "measurementMetaData"), "metaData")
        m.text(told, "declaration", quantity.declaration)
        if quantity.conformity:
            m.add(told, "conformity", quantity.conformity)


def _bytes(m: _Maker, parent: Any, attached: Attached) -> None:
    m.add(parent, "fileName", attached.name)
    m.add(parent, "mimeType", attached.mime)
    m.add(parent, "dataBase64", base64.b64encode(attached.data).decode())
