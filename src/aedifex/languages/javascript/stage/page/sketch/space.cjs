// What a sketch draws in space: each call is written down; what a graphics card makes of it tells the script nothing.
"use strict";

const CALLED =
  `ambientLight ambientMaterial beginClip beginContour beginGeometry box camera clip cone cylinder debugMode directionalLight
  ellipsoid emissiveMaterial endClip endContour freeGeometry frustum imageLight imageShader lightFalloff lights linePerspective
  metalness model noDebugMode noLights normal normalMaterial orbitControl ortho panorama perspective plane pointLight quadraticVertex
  resetShader rotateX rotateY rotateZ setAttributes setCamera shader shininess specularColor specularMaterial sphere
  spotLight strokeShader texture textureMode textureWrap torus`.split(/\s+/);
const SHADERS = ["createShader", "createFilterShader", "baseMaterialShader", "baseNormalShader", "baseStrokeShader", "baseColorShader", "baseFilterShader"];
const EYE = { eyeX: 0, eyeY: 0, eyeZ: 800, centerX: 0, centerY: 0, centerZ: 0, upX: 0, upY: 1, upZ: 0 };

/** The functions for space; `note` writes a call down, `thing` makes what notes its own calls. */
function spaceOf({ call, note, thing }) {
  const made = (kind, more = {}) => Object.assign(thing(kind), more);
  const found = Object.fromEntries(CALLED.map((name) => [name, (...given) => call(name, given)]));
  for (const name of SHADERS) found[name] = () => made("shader");
  return {
    ...found,
    createCamera: () => made("camera", EYE),
    createFramebuffer: () => {
      const buffer = made("framebuffer");
      return Object.assign(buffer, {
        draw: (carryOut) => {
          note("framebuffer: begin()");
          carryOut();
          note("framebuffer: end()");
        },
      });
    },
    buildGeometry: (carryOut) => {
      note("buildGeometry()");
      carryOut();
      return made("geometry");
    },
    endGeometry: () => made("geometry"),
  };
}

module.exports = { CALLED, spaceOf };
