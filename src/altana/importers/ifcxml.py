"""IFC written as XML (ISO 10303-28, ifcXML 2x3 and 4), turned into the same entities that a plain file holds.

Elements that are named after entities become entities; what stands in them, as XML attributes or as elements,
are their attributes or, in version 4, the relations that lead to them.
"""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any, Literal
from xml.etree import ElementTree

import ifcopenshell

from altana.core.errors import UserError

TYPE, NIL = (
    "{http://www.w3.org/2001/XMLSchema-instance}type",
    "{http://www.w3.org/2001/XMLSchema-instance}nil",
)
WRAPPER = "-wrapper"


def read_ifcxml(path: Path, name: str) -> Any:
    """The file as the IFC library holds it.  Raises UserError."""
    data = path.read_bytes()
    if b"<!ENTITY" in data or b"<!DOCTYPE" in data:
        # No exporter writes them; they only serve to blow a file up or to reach for others.
        raise UserError(
            f"{name} brings entities of its own, which Altana does not follow. Nothing was changed. Export it again as IFC."
        )
    try:
        root = ElementTree.fromstring(data)
    except (ElementTree.ParseError, ValueError, LookupError) as error:
        raise UserError(
            f"{name} is damaged and cannot be read as IFC. Nothing was changed. Export it again."
        ) from error
    schema: Literal["IFC2X3", "IFC4"] = (
        "IFC2X3"
        if any("2x3" in item.tag.lower() for item in (root, *root))
        or b"IFC2x3" in data[:2000]
        or b"IFC2X3" in data[:2000]
        else "IFC4"
    )
    return _Builder(schema).build(root)


class _Builder:
    def __init__(self, schema: Literal["IFC2X3", "IFC4"]) -> None:
        self._schema = ifcopenshell.ifcopenshell_wrapper.schema_by_name(schema)
        self._file = ifcopenshell.file(schema=schema)
        self._by_id: dict[str, Any] = {}

    def build(self, root: ElementTree.Element) -> Any:
        """Entities first, so that references find them whatever the order; then what they say."""
        entities = list(self._entities(root))
        for element, instance in entities:
            self._fill(element, instance)
        return self._file

    def _entities(self, root: ElementTree.Element) -> Iterator[tuple[ElementTree.Element, Any]]:
        waiting: list[tuple[ElementTree.Element, Any]] = [(root, None)]
        while waiting:
            element, above = waiting.pop()
            declared = self._class_of(element, above)
            if declared is not None and element.get("ref") is None and element.get("href") is None:
                instance = self._file.create_entity(declared)
                element.set("\0made", declared)
                if element.get("id"):
                    self._by_id[str(element.get("id"))] = instance
                self._by_id[f"\0{id(element)}"] = instance
                yield element, instance
                waiting += [(child, declared) for child in reversed(element)]
            elif element.get("ref") is None:
                waiting += [(child, above) for child in reversed(element)]

    def _class_of(self, element: ElementTree.Element, above: str | None) -> str | None:
        """The entity that an element stands for: its own name, the type it says, or what the attribute of its
        name holds."""
        type_name = element.get(TYPE)
        for word in (type_name.rsplit(":", 1)[-1] if type_name else "", _tag(element)):
            if word.startswith("Ifc"):
                declared = self._declared(word)
                if (
                    declared is not None
                    and declared.as_entity() is not None
                    and not declared.as_entity().is_abstract()
                ):
                    return str(declared.name())
        if above is None or (not len(element) and not element.attrib):
            return None
        attribute = self._attribute(above, _tag(element))
        kind = attribute.type_of_attribute().as_named_type() if attribute is not None else None
        entity = kind.declared_type().as_entity() if kind is not None else None
        holds_entity = any(self._declared(_tag(child)) is not None for child in element)
        return (
            str(entity.name())
            if entity is not None and not entity.is_abstract() and not holds_entity
            else None
        )

    def _declared(self, name: str) -> Any:
        try:
            return self._schema.declaration_by_name(name) if name.startswith("Ifc") else None
        except RuntimeError:
            return None

    def _attribute(self, entity: str, name: str) -> Any:
        declared = self._declared(entity).as_entity()
        return next((item for item in declared.all_attributes() if item.name() == name), None)

    def _fill(self, element: ElementTree.Element, instance: Any) -> None:
        kind = instance.is_a()
        entity = self._declared(kind).as_entity()
        derived = dict(zip([item.name() for item in entity.all_attributes()], entity.derived(), strict=False))
        for name, text in list(element.attrib.items()):
            attribute = self._attribute(kind, name)
            if attribute is not None and not derived.get(name):
                self._set(instance, name, self._from_text(attribute.type_of_attribute(), text))
        for child in element:
            attribute = self._attribute(kind, _tag(child))
            if attribute is not None:
                if not derived.get(_tag(child)):
                    self._set(instance, _tag(child), self._value(attribute.type_of_attribute(), child))
            else:
                self._relate(entity, child, instance)

    def _set(self, instance: Any, name: str, value: Any) -> None:
        if value is None:
            return
        try:
            setattr(instance, name, value)
        except (TypeError, ValueError, RuntimeError, AttributeError):
            return  # a value of another type than the schema has: the attribute stays empty, as in a plain file

    def _relate(self, entity: Any, child: ElementTree.Element, instance: Any) -> None:
        """An inverse attribute: what stands in it points back to this entity."""
        inverse = next((item for item in entity.all_inverse_attributes() if item.name() == _tag(child)), None)
        if inverse is None:
            return
        forward = inverse.attribute_reference()
        for relation in child:
            target = self._instance(relation)
            if target is None:
                continue
            if forward.type_of_attribute().as_aggregation_type() is not None:
                related = list(getattr(target, forward.name()) or ())
                self._set(target, forward.name(), [*related, instance])
            else:
                self._set(target, forward.name(), instance)

    def _instance(self, element: ElementTree.Element) -> Any:
        reference = element.get("ref") or (element.get("href") or "").lstrip("#")
        return self._by_id.get(reference) if reference else self._by_id.get(f"\0{id(element)}")

    def _value(self, kind: Any, element: ElementTree.Element) -> Any:
        own = self._instance(element)
        if own is not None:
            return own
        aggregate = kind.as_aggregation_type()
        if aggregate is not None:
            inner = aggregate.type_of_element()
            if len(element):
                return [
                    self._value(inner, child)
                    for child in element
                    if child.get(NIL) != "true" or child.get("ref")
                ]
            return self._from_text(kind, element.text or "")
        for child in element:
            instance = self._instance(child)
            if instance is not None:
                return instance
            wrapped = self._wrapped(child)
            if wrapped is not None:
                return wrapped
        wrapped = self._wrapped(element)
        if (
            wrapped is not None
            and kind.as_named_type() is not None
            and kind.as_named_type().declared_type().as_select_type() is not None
        ):
            return wrapped
        return self._from_text(kind, element.text or "")

    def _wrapped(self, element: ElementTree.Element) -> Any:
        """A value that says its own type, such as a length."""
        declared = self._declared(_tag(element).removesuffix(WRAPPER))
        if declared is None or declared.as_type_declaration() is None:
            return None
        value = self._from_text(declared.as_type_declaration().declared_type(), element.text or "")
        try:
            return self._file.create_entity(declared.name(), value)
        except (TypeError, ValueError, RuntimeError):
            return None

    def _from_text(self, kind: Any, text: str) -> Any:
        aggregate = kind.as_aggregation_type()
        if aggregate is not None:
            inner = aggregate.type_of_element()
            if inner.as_aggregation_type() is not None:
                words, width = text.split(), max(1, inner.as_aggregation_type().bound1())
                return [
                    [
                        self._from_text(inner.as_aggregation_type().type_of_element(), w)
                        for w in words[at : at + width]
                    ]
                    for at in range(0, len(words), width)
                ]
            return [self._from_text(inner, word) for word in text.split()]
        named = kind.as_named_type()
        if named is not None:
            declared = named.declared_type()
            if declared.as_enumeration_type() is not None:
                return text.strip().upper()
            if declared.as_type_declaration() is not None:
                return self._from_text(declared.as_type_declaration().declared_type(), text)
            return None
        simple = str(kind.as_simple_type().declared_type())
        try:
            if simple in ("real", "number"):
                return float(text)
            if simple == "integer":
                return int(float(text))
        except ValueError:
            return None
        if simple in ("boolean", "logical"):
            return text.strip().lower() in ("true", "1", ".t.")
        return text


def _tag(element: ElementTree.Element) -> str:
    return element.tag.rsplit("}", 1)[-1] if isinstance(element.tag, str) else ""
