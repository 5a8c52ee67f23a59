from django.urls import path

from studio.accounts import views

app_name = "accounts"
urlpatterns = [
    path("sign-in", views.sign_in, name="sign-in"),
    path("sign-out", views.sign_out, name="sign-out"),
    path("join", views.join, name="join"),
    path("password", views.password, name="password"),
]
