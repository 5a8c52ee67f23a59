"""Signing in and out, and making an account."""

from django.contrib.auth import login, views
from django.contrib.auth.forms import AuthenticationForm, UserCreationForm
from django.shortcuts import redirect, render
from django.views.decorators.http import require_http_methods

from studio.accounts.permissions import open_to_all


class SignInForm(AuthenticationForm):
    """Name and password."""

    error_messages = AuthenticationForm.error_messages | {
        "invalid_login": "No account has this name and password. Check both and try again."
    }


sign_in = open_to_all(
    views.LoginView.as_view(
        template_name="accounts/sign_in.html",
        authentication_form=SignInForm,
        redirect_authenticated_user=True,
    )
)
sign_out = open_to_all(views.LogoutView.as_view(http_method_names=["post", "options"]))


@open_to_all
@require_http_methods(["GET", "POST"])
def join(request):
    """Make an account and sign in with it."""
    form = UserCreationForm(request.POST or None)
    if request.method == "POST" and form.is_valid():
        login(request, form.save(), backend="django.contrib.auth.backends.ModelBackend")
        return redirect("projects:list")
    return render(request, "accounts/join.html", {"form": form}, status=400 if form.errors else 200)
