"""Validates a plan XML file against plan.xsd with xmlschema, a validator in plain Python; prints what is wrong."""
import json
import sys
from pathlib import Path

import xmlschema

schema = xmlschema.XMLSchema(str(Path(__file__).parents[2] / "src" / "PlanXml" / "plan.xsd"))
print(json.dumps([f"{e.path}: {e.reason}" for e in schema.iter_errors(sys.argv[1])][:20]))
