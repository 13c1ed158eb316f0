"""Second factors: codes of an authenticator (RFC 6238) and passkeys (W3C Web Authentication)."""

from __future__ import annotations

import json
from datetime import UTC, datetime
from typing import Any

import segno
from django.contrib.auth.models import User
from django.http import HttpRequest
from django_otp.plugins.otp_totp.models import TOTPDevice
from webauthn import (
    base64url_to_bytes,
    generate_authentication_options,
    generate_registration_options,
    options_to_json,
    verify_authentication_response,
    verify_registration_response,
)
from webauthn.helpers import bytes_to_base64url
from webauthn.helpers.exceptions import WebAuthnException
from webauthn.helpers.structs import (
    AuthenticatorSelectionCriteria,
    PublicKeyCredentialDescriptor,
    ResidentKeyRequirement,
    UserVerificationRequirement,
)

from core.base.errors import Refused, problem
from server.people.models import Passkey

CODE, PASSKEY = "code", "passkey"
CHALLENGE = "passkey_challenge"
NAME = "Long Noon"
MOST_PASSKEYS = 10
QR_PX = 5


def ways_of(person: User) -> tuple[str, ...]:
    """With what a person signs in besides their password; nothing where none is set up."""
    has_code: bool = TOTPDevice.objects.filter(user=person, confirmed=True).exists()
    has_passkey = Passkey.objects.filter(person=person).exists()
    return (CODE,) * has_code + (PASSKEY,) * has_passkey


def code_fits(person: User, code: str) -> bool:
    """Whether a code is the authenticator's of this half minute; after wrong ones it waits."""
    devices = TOTPDevice.objects.filter(user=person, confirmed=True)
    return any(one.verify_is_allowed()[0] and one.verify_token(code.strip()) for one in devices)


def begin_code(person: User) -> tuple[str, str]:
    """A new secret for the authenticator: its address, and a picture of it to scan."""
    TOTPDevice.objects.filter(user=person, confirmed=False).delete()
    device = TOTPDevice.objects.create(user=person, name=NAME, confirmed=False)
    address = device.config_url.replace("?", f"?issuer={NAME.replace(' ', '%20')}&", 1)
    return address, segno.make(address).svg_data_uri(scale=QR_PX, border=2)


def confirm_code(person: User, code: str) -> None:
    """Take the new secret into use once one of its codes was typed. Raises Refused."""
    device = TOTPDevice.objects.filter(user=person, confirmed=False).last()
    if device is None or not device.verify_token(code.strip()):
        said = "This code does not fit. Scan the square anew, or look at the phone's clock."
        raise Refused([problem("$.code", "******", "the code that the phone shows", said)])
    TOTPDevice.objects.filter(user=person, confirmed=True).delete()
    device.confirmed = True
    device.save()


def remove_code(person: User) -> None:
    """The authenticator is asked for no more."""
    TOTPDevice.objects.filter(user=person).delete()


def forget_factors(person: User) -> None:
    """Everything that a person signs in with besides the password is forgotten."""
    remove_code(person)
    Passkey.objects.filter(person=person).delete()


def passkey_options(request: HttpRequest, person: User) -> dict[str, Any]:
    """What the browser needs to make a passkey."""
    known = Passkey.objects.filter(person=person)
    if known.count() >= MOST_PASSKEYS:
        raise Refused([problem("$", f"{known.count()} passkeys", f"at most {MOST_PASSKEYS}")])
    options = generate_registration_options(
        rp_id=_place(request),
        rp_name=NAME,
        user_id=str(person.pk).encode(),
        user_name=person.get_username(),
        user_display_name=person.get_full_name() or person.get_username(),
        exclude_credentials=[_described(one) for one in known],
        authenticator_selection=AuthenticatorSelectionCriteria(
            resident_key=ResidentKeyRequirement.REQUIRED,
            user_verification=UserVerificationRequirement.REQUIRED,
        ),
    )
    return _asked(request, options)


def keep_passkey(request: HttpRequest, person: User, name: str, answer: dict[str, Any]) -> None:
    """Keep the passkey that the browser made. Raises Refused."""
    try:
        made = verify_registration_response(
            credential=answer,
            expected_challenge=_challenge(request),
            expected_rp_id=_place(request),
            expected_origin=_origin(request),
            require_user_verification=True,
        )
    except (WebAuthnException, ValueError, KeyError, TypeError) as error:
        raise _unfit(str(error)) from None
    Passkey.objects.create(
        person=person,
        credential=bytes_to_base64url(made.credential_id),
        public_key=made.credential_public_key,
        count=made.sign_count,
        name=name.strip() or "passkey",
    )


def sign_in_options(request: HttpRequest, person: User | None) -> dict[str, Any]:
    """What the browser needs to sign in with a passkey: of a person, or of whoever holds one."""
    known = Passkey.objects.filter(person=person) if person else ()
    options = generate_authentication_options(
        rp_id=_place(request),
        allow_credentials=[_described(one) for one in known] or None,
        user_verification=UserVerificationRequirement.REQUIRED,
    )
    return _asked(request, options)


def passkey_person(request: HttpRequest, answer: dict[str, Any]) -> User:
    """Whose passkey the browser signed with. Raises Refused."""
    held = Passkey.objects.select_related("person").filter(credential=answer.get("id")).first()
    if held is None:
        raise _unfit("unknown")
    try:
        found = verify_authentication_response(
            credential=answer,
            expected_challenge=_challenge(request),
            expected_rp_id=_place(request),
            expected_origin=_origin(request),
            credential_public_key=bytes(held.public_key),
            credential_current_sign_count=held.count,
            require_user_verification=True,
        )
    except (WebAuthnException, ValueError, KeyError, TypeError) as error:
        raise _unfit(str(error)) from None
    held.count, held.used_at = found.new_sign_count, datetime.now(UTC)
    held.save()
    return held.person


def _unfit(why: str) -> Refused:
    said = "This passkey does not fit here. Try again, or sign in with name and password."
    return Refused([problem("$", why[:60], "a passkey of this installation", said)])


def _described(one: Passkey) -> PublicKeyCredentialDescriptor:
    return PublicKeyCredentialDescriptor(id=base64url_to_bytes(one.credential))


def _asked(request: HttpRequest, options: Any) -> dict[str, Any]:
    request.session[CHALLENGE] = bytes_to_base64url(options.challenge)
    asked: dict[str, Any] = json.loads(options_to_json(options))
    return asked


def _challenge(request: HttpRequest) -> bytes:
    """What the browser was asked to sign; each is used once."""
    return base64url_to_bytes(request.session.pop(CHALLENGE))


def _place(request: HttpRequest) -> str:
    return request.get_host().partition(":")[0]


def _origin(request: HttpRequest) -> str:
    return f"{request.scheme}://{request.get_host()}"
