"""With many players. Figures are printed; what is asserted is that nothing is wrong or lost."""

pytest_plugins = ["tests.deploy.conftest"]
