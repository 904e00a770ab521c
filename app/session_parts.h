#pragma once
// What the session's own files share: what its jobs give back, and what it keeps between them.
#include <QLockFile>

#include "app/ask.h"
#include "app/prepared_source.h"
#include "app/session.h"
#include "app/work/saver.h"
#include "core/detect/detect.h"
#include "core/detect/photo_face.h"
#include "core/fit/fit.h"
#include "core/kit/base_kit.h"
#include "core/project/fits.h"
#include "core/project/inbox.h"
#include "core/project/sources.h"

namespace veld {

struct Session::Loaded {
    std::vector<Source> sources;
    std::vector<std::shared_ptr<PreparedSource>> prepared;
    std::vector<Error> errors;
};

struct Session::Tidied {
    Source source;
    std::shared_ptr<PreparedSource> prepared;  // null: the mesh is as it was
};

struct Session::Preview {
    QString label;
    std::shared_ptr<const Mesh> made_from;
    Source source;
    std::shared_ptr<PreparedSource> prepared;
};

struct Session::Detected {
    std::optional<Detection> scan;
    std::optional<PhotoDetection> photo;
    std::shared_ptr<const FaceReference> reference;
    std::shared_ptr<const BaseKit> kit;
};

struct Session::FitJob {  // what a fit was started for
    FitRun run = FitRun::New;
    SubjectId subject;
    Source source;  // as it was
    FitId from;     // the try that it went on from, and its shape then
    std::shared_ptr<const Points> from_shape;
};

struct Session::KeptFitCache {
    FitCache cache;
    std::shared_ptr<const Mesh> mesh;
    std::shared_ptr<const VertexMask> ignored;
    std::shared_ptr<const BaseKit> kit;
    FitPart part = FitPart::Head;
    double neck_band_mm = 0;
    Similarity to_kit;
};

}  // namespace veld
