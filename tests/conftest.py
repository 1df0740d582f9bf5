"""What holds for all tests."""

import os

from hypothesis import HealthCheck, Phase, settings

# Machines are noisy: a property is right or wrong, however long it takes.
# Scores hold everything at once, so that each of them tests a lot: some dozens a run, others in the next run.
settings.register_profile(
    "steady", deadline=None, max_examples=60, suppress_health_check=[HealthCheck.too_slow]
)
# While working: the first failure as it was found, without looking for a smaller one.
settings.register_profile(
    "quick", settings.get_profile("steady"), phases=[Phase.explicit, Phase.reuse, Phase.generate]
)
settings.load_profile(os.environ.get("HYPOTHESIS_PROFILE", "steady"))
