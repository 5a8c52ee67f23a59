"""Signing in and out, making an account, changing one's password."""

from __future__ import annotations

from typing import Any

from django import forms
from django.contrib import messages
from django.contrib.auth import login, update_session_auth_hash, views
from django.contrib.auth.forms import (
    AuthenticationForm,
    PasswordChangeForm,
    UserCreationForm,
    UsernameField,
)
from django.contrib.auth.models import User
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_http_methods

from studio.accounts import limits
from studio.accounts.permissions import open_to_all, person, signed_in

_BACKEND = "django.contrib.auth.backends.ModelBackend"


class SignInForm(AuthenticationForm):
    """Name and password."""

    username = UsernameField(
        label="Account name", widget=forms.TextInput(attrs={"autofocus": True})
    )
    error_messages = AuthenticationForm.error_messages | {
        "invalid_login": "No account has this name and password. Check both and try again."
    }


class SignInView(views.LoginView):
    """Sign in; a password is only looked at where there were not too many tries."""

    template_name = "accounts/sign_in.html"
    authentication_form = SignInForm
    redirect_authenticated_user = True

    def post(self, request: HttpRequest, *args: Any, **kwargs: Any) -> HttpResponse:
        self.name = request.POST.get("username", "")[:150]
        limits.refuse_too_many(request, "sign-in", self.name)
        limits.count(request, "sign-in", self.name)
        return super().post(request, *args, **kwargs)

    def form_valid(self, form: Any) -> HttpResponse:
        limits.forget(self.request, "sign-in", self.name)
        return super().form_valid(form)


sign_in = open_to_all(SignInView.as_view())
sign_out = open_to_all(views.LogoutView.as_view(http_method_names=["post", "options"]))


@open_to_all
@require_http_methods(["GET", "POST"])
def join(request: HttpRequest) -> HttpResponse:
    """Make an account and sign in with it."""
    if request.method == "POST":
        limits.refuse_too_many(request, "join")
        limits.count(request, "join")
    form: UserCreationForm[User] = UserCreationForm(request.POST or None)
    if request.method == "POST" and form.is_valid():
        login(request, form.save(), backend=_BACKEND)
        return redirect("projects:list")
    return render(request, "accounts/join.html", {"form": form}, status=400 if form.errors else 200)


@signed_in
@require_http_methods(["GET", "POST"])
def password(request: HttpRequest) -> HttpResponse:
    """Change one's own password; every other session of the account ends."""
    name = request.user.get_username()
    if request.method == "POST":
        limits.refuse_too_many(request, "password", name)
        limits.count(request, "password", name)
    form = PasswordChangeForm(person(request), request.POST or None)
    if request.method == "POST" and form.is_valid():
        update_session_auth_hash(request, form.save())
        messages.success(request, "Your password is changed. You are signed out elsewhere.")
        return redirect("projects:list")
    context = {"form": form, "has_one": person(request).has_usable_password()}
    return render(request, "accounts/password.html", context, status=400 if form.errors else 200)
