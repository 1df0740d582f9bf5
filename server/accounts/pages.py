"""The few pages that are no part of the application: Django's own, for passwords, and the one of who is invited."""

from typing import Any

from django import forms
from django.contrib.auth import login
from django.contrib.auth import views as of_django
from django.contrib.auth.forms import UserCreationForm
from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.urls import path, reverse_lazy
from django.utils.decorators import method_decorator
from django.views.decorators.cache import never_cache
from django.views.decorators.debug import sensitive_post_parameters
from django.views.generic import FormView

from accounts.attempts import TooOftenError, count_attempt
from accounts.invitations import open_invitation, take_invitation
from accounts.models import User
from accounts.services import end_others

__all__ = ["urlpatterns"]


def _said(request: HttpRequest, title: str, *text: str, status: int = 200) -> HttpResponse:
    return render(request, "accounts/said.html", {"title": title, "text": text}, status=status)


def _too_often(request: HttpRequest, error: TooOftenError) -> HttpResponse:
    response = _said(request, "Too often", str(error), status=429)
    response["Retry-After"] = str(error.seconds)
    return response


class ChangePassword(of_django.PasswordChangeView):
    """A new password, by who knows the old one. All other sign-ins end, and tokens are revoked."""

    template_name = "accounts/form.html"
    success_url = reverse_lazy("password_changed")
    title = "A new password"
    extra_context = {
        "action": "Change the password",
        "note": "All other sign-ins end, and tokens are revoked.",
    }

    def post(self, request: HttpRequest, *args: Any, **kwargs: Any) -> HttpResponse:
        """Change it; wrong ones count as they do when signing in."""
        try:
            count_attempt(request, "password", request.user.get_username())
        except TooOftenError as error:
            return _too_often(request, error)
        return super().post(request, *args, **kwargs)

    def form_valid(self, form: Any) -> HttpResponse:
        """Change it and end all else."""
        response = super().form_valid(form)
        end_others(self.request, form.user)
        return response


class AskForLink(of_django.PasswordResetView):
    """Send a link to who says their address; whether somebody has it is not said."""

    template_name = "accounts/form.html"
    email_template_name = "accounts/reset_mail.txt"
    subject_template_name = "accounts/reset_subject.txt"
    success_url = reverse_lazy("password_link_sent")
    title = "A forgotten password"
    extra_context = {"action": "Send a link", "note": "A link to a new password goes to your mail address."}

    def post(self, request: HttpRequest, *args: Any, **kwargs: Any) -> HttpResponse:
        """Send it, unless that was asked too often."""
        try:
            count_attempt(request, "reset", request.POST.get("email", ""))
        except TooOftenError as error:
            return _too_often(request, error)
        return super().post(request, *args, **kwargs)


class NewPassword(of_django.PasswordResetConfirmView):
    """A new password, by who has the link."""

    template_name = "accounts/form.html"
    success_url = reverse_lazy("password_changed")
    title = "A new password"
    post_reset_login = False
    extra_context = {"action": "Take this password"}

    def form_valid(self, form: Any) -> HttpResponse:
        """Take it; all sign-ins end with the old one, and tokens are revoked."""
        form.user.tokens.all().delete()
        return super().form_valid(form)

    def render_to_response(self, context: dict[str, Any], **kwargs: Any) -> HttpResponse:
        """Show it, or say that the link is good for nothing."""
        if not context["validlink"]:
            text = "It was used, or it is older than two hours. Ask for another one."
            return _said(self.request, "This link is good for nothing any more", text, status=410)
        return super().render_to_response(context, **kwargs)


class WelcomeForm(UserCreationForm):  # type: ignore[type-arg]  # not generic while it runs
    """A name and a password, twice."""

    email = forms.EmailField(
        required=False, label="Mail address", help_text="Where a link goes, should you forget the password."
    )

    class Meta:
        model = User
        fields = ("username", "email")
        labels = {"username": "Name"}
        help_texts = {"username": "Letters, digits and @ . + - _"}


@method_decorator([never_cache, sensitive_post_parameters()], name="dispatch")
class Welcome(FormView):  # type: ignore[type-arg]  # not generic while it runs
    """An account for who has an invitation."""

    template_name = "accounts/form.html"
    form_class = WelcomeForm
    extra_context = {"title": "Welcome to Jolly Lattice", "action": "Make my account"}

    def dispatch(self, request: HttpRequest, *args: Any, **kwargs: Any) -> Any:
        """Say so where the link is good for nothing."""
        try:
            if request.method == "POST":
                count_attempt(request, "welcome", kwargs["secret"])
        except TooOftenError as error:
            return _too_often(request, error)
        return (
            super().dispatch(request, *args, **kwargs) if open_invitation(kwargs["secret"]) else self._gone()
        )

    def _gone(self) -> HttpResponse:
        text = "It was used, or it has expired. Ask for another one where it came from."
        return _said(self.request, "This invitation is good for nothing any more", text, status=410)

    def form_valid(self, form: WelcomeForm) -> HttpResponse:
        """Make the account, for the first who comes with the link, and sign them in."""
        with transaction.atomic():
            user = form.save()
            is_taken = take_invitation(self.kwargs["secret"], user)
            if not is_taken:
                transaction.set_rollback(True)
        if not is_taken:
            return self._gone()
        login(self.request, user, backend="django.contrib.auth.backends.ModelBackend")
        return _said(self.request, "Welcome to Jolly Lattice", f"You are signed in as {user.get_username()}.")


def changed(request: HttpRequest) -> HttpResponse:
    """Say that the password is another one."""
    text = "All other sign-ins are ended, and tokens are revoked."
    return _said(request, "Your password is changed", text)


def sent(request: HttpRequest) -> HttpResponse:
    """Say that a link is on its way, if there is somebody to send it to."""
    text = (
        "If somebody here has that address, a link to a new password is on its way. It holds for two hours."
    )
    return _said(request, "Look into your mail", text)


urlpatterns = [
    path("password", ChangePassword.as_view(), name="password_change"),
    path("password/changed", changed, name="password_changed"),
    path("reset", AskForLink.as_view(), name="password_reset"),
    path("reset/sent", sent, name="password_link_sent"),
    path("reset/<uidb64>/<token>", NewPassword.as_view(), name="password_reset_confirm"),
    path("welcome/<str:secret>", Welcome.as_view(), name="welcome"),
]
