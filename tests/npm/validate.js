// node validate.js FILE.glb: prints the validator's counts and messages as JSON.
const fs = require('fs');
const validator = require('gltf-validator');
validator.validateBytes(new Uint8Array(fs.readFileSync(process.argv[2])))
  .then((report) => console.log(JSON.stringify(report.issues)))
  .catch((error) => { console.error(error); process.exit(1); });
