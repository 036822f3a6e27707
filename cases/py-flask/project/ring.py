from click.testing import CliRunner

from mill.bell import bell

print(CliRunner().invoke(bell, ["ring-bell", "--times", "2"]).output)
