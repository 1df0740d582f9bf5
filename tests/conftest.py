"""What holds for all tests."""

import os

from hypothesis import HealthCheck, Phase, settings

# Machines are noisy: a property is right or wrong, however long it takes. Scores hold everything at once, so that each
# of them tests a lot. The default run is the same every time, so that more examples of it would be the same ones again:
# those that hold the engine against its definitions try many, the others a few; what a random search finds becomes an
# example.
settings.register_profile(
    "steady",
    deadline=None,
    max_examples=10,
    derandomize=True,
    database=None,
    phases=[Phase.explicit, Phase.generate],
    print_blob=True,
    suppress_health_check=[HealthCheck.too_slow],
)
# ./test explore: at random, for as long as is asked, and looking for the smallest case of what it finds.
settings.register_profile(
    "explore",
    settings.get_profile("steady"),
    max_examples=60,
    derandomize=False,
    phases=[Phase.explicit, Phase.generate, Phase.shrink],
)
settings.load_profile(os.environ.get("HYPOTHESIS_PROFILE", "steady"))
