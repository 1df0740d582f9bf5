"""What holds for all tests."""

from hypothesis import HealthCheck, settings

# Machines are noisy: a property is right or wrong, however long it takes.
settings.register_profile("steady", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("steady")
