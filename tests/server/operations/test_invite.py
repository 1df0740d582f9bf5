from django.core.management import call_command


def test_the_first_musician_is_invited_from_the_command_line(nobody, capsys):
    call_command("invite", note="Mara", address="https://lattice.example")
    link = capsys.readouterr().out.strip()
    assert link.startswith("https://lattice.example/account/welcome/")
    assert nobody.get(link.removeprefix("https://lattice.example")).status_code == 200
