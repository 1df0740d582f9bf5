"""What holds for all tests."""

import os

from hypothesis import HealthCheck, Phase, settings

# Machines are noisy: a property is right or wrong, however long it takes. Scores hold everything at once, so that each
# of them tests a lot. The default run is the same every time; what a random search finds becomes an example of it.
settings.register_profile(
    "steady",
    deadline=None,
    max_examples=30,
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
    derandomize=False,
    phases=[Phase.explicit, Phase.generate, Phase.shrink],
)
settings.load_profile(os.environ.get("HYPOTHESIS_PROFILE", "steady"))
